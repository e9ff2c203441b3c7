import { Progress as Radix } from "radix-ui";

/** How far something is, from 0 to 1; null while that cannot be said. */
export function Progress({ share, label }: { share: number | null; label: string }) {
  const percent = share === null ? null : Math.round(Math.min(1, Math.max(0, share)) * 100);
  return (
    <Radix.Root
      value={percent}
      aria-label={label}
      className="h-2 w-full overflow-hidden rounded-full bg-[#dcd9e1]"
    >
      <Radix.Indicator
        className={`h-full rounded-full bg-mulberry transition-[width] duration-150 ${percent === null ? "w-1/3 animate-pulse" : ""}`}
        style={percent === null ? undefined : { width: `${percent}%` }}
      />
    </Radix.Root>
  );
}
