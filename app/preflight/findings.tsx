/** What was found, in order of harm. */
import { CircleCheck } from "lucide-react";
import { useRef } from "react";
import type { Preflight, ShownFinding } from "~/server/preflight/preflight";
import { count, counted } from "../ui/time";
import { FindingCard } from "./finding-card";
import { WEIGHT_LOOKS, WEIGHTS_SHOWN } from "./weights";

/** What it comes to, as a headline. */
function headline(findings: readonly ShownFinding[]): string {
  const many = (weight: ShownFinding["weight"]) => findings.filter((one) => one.weight === weight).length;
  const [stops, look, could] = [many("stops"), many("look"), many("could")];
  const parts = [
    ...(stops > 0 ? [`${counted(stops, "thing stops", "things stop")} it`] : []),
    ...(look > 0 ? [`${count(look)} ${look === 1 ? "is" : "are"} worth a look`] : []),
    ...(could > 0 ? [`${count(could)} could be better`] : []),
  ];
  return parts.length === 0 ? "Nothing stands in its way" : parts.join(", ");
}

export function Findings({
  campaign,
  checked: { findings, fine, editions, readers },
  whole,
  onChanged,
  onPoint,
}: {
  campaign: string;
  checked: Preflight;
  /** Whether each edition has been looked at. */
  whole: boolean;
  /** Something was mended or set aside. */
  onChanged(): void;
  /** The editions of the finding that is pointed at; null for none. */
  onPoint(editions: readonly number[] | null): void;
}) {
  const headlineRef = useRef<HTMLHeadingElement>(null);
  const open = findings.filter(({ aside }) => aside === null);
  const aside = findings.filter((one) => one.aside !== null);
  const card = (finding: ShownFinding) => (
    <li
      key={`${finding.id} ${finding.text}`}
      onPointerEnter={() => onPoint(finding.editions ?? editions.map(({ number }) => number))}
      onPointerLeave={() => onPoint(null)}
    >
      <FindingCard
        campaign={campaign}
        finding={finding}
        as={editions.find(({ number }) => finding.editions?.includes(number) ?? true)?.sample.id ?? null}
        // Before editions are looked at it is not known whom it touches.
        readers={editions.length > 0 ? readers : 0}
        onChanged={() => {
          // What was pressed may be gone.
          headlineRef.current?.focus();
          onChanged();
        }}
      />
    </li>
  );
  return (
    <>
      <h1
        ref={headlineRef}
        tabIndex={-1}
        className="mb-4 flex items-center gap-2 text-[22px]/7 font-semibold outline-none"
        aria-live="polite"
      >
        {whole && open.length === 0 && <CircleCheck className="size-6 text-green" aria-hidden />}
        {whole || open.length > 0 ? headline(open) : "Looking at each edition…"}
      </h1>
      {WEIGHTS_SHOWN.map((weight) => {
        const those = open.filter((one) => one.weight === weight);
        if (those.length === 0) return null;
        return (
          <section key={weight} aria-label={WEIGHT_LOOKS[weight].title} className="mb-5">
            <h2 className="mb-2 font-semibold">{WEIGHT_LOOKS[weight].title}</h2>
            <ul className="space-y-2">{those.map(card)}</ul>
          </section>
        );
      })}
      {aside.length > 0 && (
        <section aria-label="Set aside" className="mb-5">
          <h2 className="mb-2 font-semibold">Set aside</h2>
          <ul className="space-y-2">{aside.map(card)}</ul>
        </section>
      )}
      {whole && (
        <p className="max-w-3xl">
          <strong>Fine</strong>{" "}
          <span className="text-ink-soft">
            {counted(fine.length, "check")}: {fine.join(", ")}.
          </span>
        </p>
      )}
    </>
  );
}
