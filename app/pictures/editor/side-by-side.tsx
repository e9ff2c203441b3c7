import { kilobytes } from "../../ui/time";

export interface Weighed {
  src: string;
  type: string;
  bytes: number;
}

const kind = (type: string) => type.replace("image/", "").toUpperCase();

/** How much less something weighs, in words. */
function savingWords(before: number, after: number): string {
  const share = Math.round((1 - after / before) * 100);
  if (share === 0) return "as heavy as before";
  return share > 0 ? `${share} % lighter` : `${-share} % heavier`;
}

/** Two pictures beside each other at the same size, each with what it weighs. */
export function SideBySide({ before, after }: { before: Weighed; after: Weighed }) {
  return (
    <div className="grid grid-cols-2 gap-4 max-md:grid-cols-1">
      {(
        [
          ["Before", before],
          ["After", after],
        ] as const
      ).map(([label, one]) => (
        <figure key={label} className="min-w-0">
          <img
            src={one.src}
            alt={label}
            className="chequered max-h-[60vh] w-full rounded-md border object-contain"
          />
          <figcaption className="mt-1.5 flex gap-2">
            <span className="font-semibold">{label}</span>
            <span className="text-ink-soft">
              {kind(one.type)} {kilobytes(one.bytes)}
            </span>
            {label === "After" && (
              <span className={after.bytes < before.bytes ? "text-green" : "text-amber"}>
                {savingWords(before.bytes, after.bytes)}
              </span>
            )}
          </figcaption>
        </figure>
      ))}
    </div>
  );
}
