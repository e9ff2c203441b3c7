export default function Fields() {
  return null;
}
