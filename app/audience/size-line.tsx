import { count } from "../ui/time";

const WIDTH = 168;
const HEIGHT = 32;

/** A size over time as a small line, with where it began and where it is. */
export function SizeLine({ sizes }: { sizes: readonly { day: string; size: number }[] }) {
  if (sizes.length < 2) return null;
  const days = sizes.map(({ day }) => Date.parse(day));
  const [first, last] = [days[0], days[days.length - 1]];
  const most = Math.max(...sizes.map(({ size }) => size));
  const least = Math.min(...sizes.map(({ size }) => size));
  const points = sizes
    .map(({ size }, index) => {
      const x = ((days[index] - first) / (last - first)) * (WIDTH - 2) + 1;
      const y = HEIGHT - 2 - ((size - least) / Math.max(1, most - least)) * (HEIGHT - 4);
      return `${x.toFixed(1)},${y.toFixed(1)}`;
    })
    .join(" ");
  const from = sizes[0];
  const grown = sizes[sizes.length - 1].size - from.size;
  const words = `${grown >= 0 ? "+" : "−"}${count(Math.abs(grown))} since ${new Date(from.day).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric", timeZone: "UTC" })}`;
  return (
    <span className="inline-flex items-center gap-2 text-xs text-ink-soft">
      <svg width={WIDTH} height={HEIGHT} role="img" aria-label={`Size over time: ${words}`}>
        <polyline points={points} fill="none" stroke="currentColor" strokeWidth="1.5" className="text-teal" />
      </svg>
      {words}
    </span>
  );
}
