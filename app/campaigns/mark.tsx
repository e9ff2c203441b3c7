/** Marks one of a list, so that something can be done to several. */
export function Mark({
  name,
  checked,
  onChange,
}: {
  name: string;
  checked: boolean;
  onChange(on: boolean): void;
}) {
  return (
    <label className="-m-2 flex size-9 shrink-0 cursor-pointer items-center justify-center">
      <input
        type="checkbox"
        aria-label={`Mark ${name}`}
        className="size-4 accent-mulberry"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
    </label>
  );
}
