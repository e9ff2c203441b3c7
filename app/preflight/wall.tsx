/** Every edition as devices and classes of mail programs show it, those with findings first. */
import { useState } from "react";
import { Link } from "react-router";
import type { InboxName } from "~/core/inboxes";
import type { EditionChecked, Preflight } from "~/server/preflight/preflight";
import { Button, buttonLook } from "../ui/button";
import { Choose } from "../ui/choose";
import { Dialog } from "../ui/dialog";
import { count, counted, kilobytes } from "../ui/time";
import { FramedPicture, TruePicture } from "../ui/true-picture";
import { WEIGHT_LOOKS, WEIGHTS_SHOWN } from "./weights";

/** One way to see an edition. */
interface View {
  key: string;
  label: string;
  inbox: InboxName;
  /** Of its window, in px. */
  width: number;
}

const view = (inbox: InboxName, label: string, width = 640): View => ({
  key: `${inbox} ${width}`,
  label,
  inbox,
  width,
});
/** What stands beside each other. */
const SETS = {
  devices: {
    label: "Desktop, phone, dark",
    views: [view("light", "Desktop"), view("light", "Phone", 375), view("dark", "Dark")],
  },
  tablets: {
    label: "Tablet, narrow phone, dark phone",
    views: [
      view("light", "Tablet", 768),
      view("light", "Narrow phone", 320),
      view("dark", "Dark phone", 375),
    ],
  },
  inversions: {
    label: "Partly, wholly inverted; pictures off",
    views: [
      view("partial", "Partly inverted"),
      view("full", "Wholly inverted"),
      view("picturesOff", "Pictures off"),
    ],
  },
  engines: {
    label: "Word-processor engine; no style block",
    views: [
      view("word", "Word processor"),
      view("stripped", "No style block"),
      view("stripped", "The same, phone", 375),
    ],
  },
} as const;
type SetName = keyof typeof SETS;

const SHOWN = 12;
/** How wide a scroll bar is at most, in px. */
const SCROLL_BAR = 16;
/** How wide and high a picture is, in px. */
const PICTURE = { width: 104, height: 112 };

export function Wall({
  campaign,
  checked,
  looking,
  marked,
}: {
  campaign: string;
  checked: Preflight | null;
  looking: boolean;
  /** Editions that a finding which is pointed at touches. */
  marked: readonly number[] | null;
}) {
  const [set, setSet] = useState<SetName>("devices");
  const [most, setMost] = useState(SHOWN);
  const [large, setLarge] = useState<{ edition: EditionChecked; view: View } | null>(null);
  const editions = checked?.editions ?? [];
  const { views } = SETS[set];
  const worst = new Map<number, (typeof WEIGHTS_SHOWN)[number]>();
  for (const weight of [...WEIGHTS_SHOWN].reverse())
    for (const { editions: those, weight: its, aside } of checked?.findings ?? [])
      if (its === weight && weight !== "could" && aside === null)
        for (const number of those ?? []) worst.set(number, weight);
  const rank = ({ number }: EditionChecked) => {
    const weight = worst.get(number);
    return weight ? WEIGHTS_SHOWN.indexOf(weight) : WEIGHTS_SHOWN.length;
  };
  const sorted = [...editions].sort((one, other) => rank(one) - rank(other) || one.number - other.number);
  const src = ({ sample }: EditionChecked, { inbox }: View) =>
    `/campaigns/${campaign}/preflight/look?reader=${sample.id}&as=${inbox}&r=${checked?.revision ?? 0}`;
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <h2 className="mr-auto text-[15px] font-semibold">Every edition</h2>
        <Choose<SetName>
          label="As"
          className="w-52!"
          value={set}
          onChange={setSet}
          options={Object.entries(SETS).map(([value, { label }]) => ({ value: value as SetName, label }))}
        />
      </div>
      {editions.length === 0 && (
        <p className="text-ink-soft">{looking ? "Looking at each edition…" : "Nobody gets it yet."}</p>
      )}
      {editions.length > 0 && (
        <div
          aria-hidden
          className="mb-1 grid grid-cols-[minmax(72px,1fr)_repeat(3,104px)] gap-3 text-xs text-ink-soft"
        >
          <span />
          {views.map(({ key, label }) => (
            <span key={key}>{label}</span>
          ))}
        </div>
      )}
      <ol className="space-y-3">
        {sorted.slice(0, most).map((edition) => {
          const weight = worst.get(edition.number);
          const look = weight && WEIGHT_LOOKS[weight];
          return (
            <li
              key={edition.number}
              data-marked={marked?.includes(edition.number) || undefined}
              className="grid grid-cols-[minmax(72px,1fr)_repeat(3,104px)] gap-3 rounded-lg data-marked:bg-[#f3f1f5] data-marked:outline-4 data-marked:outline-[#f3f1f5]"
            >
              <div className="min-w-0">
                <p className="flex items-center gap-1.5 font-semibold">
                  {count(edition.number)}
                  {look && <look.icon className={`size-4 ${look.ink}`} aria-label={look.title} />}
                </p>
                <p className="font-medium text-teal">{counted(edition.count, "reader")}</p>
                <p className="truncate text-ink-soft">{edition.sample.name}</p>
                <p className="text-ink-soft">{kilobytes(edition.bytes)}</p>
              </div>
              {views.map((one) => {
                const Picture = one.width < 640 ? FramedPicture : TruePicture;
                return (
                  <button
                    key={one.key}
                    type="button"
                    onClick={() => setLarge({ edition, view: one })}
                    aria-label={`Edition ${edition.number}, ${one.label}: larger`}
                    className="overflow-hidden rounded-md border hover:border-ink-soft"
                    style={{ width: PICTURE.width }}
                  >
                    <Picture
                      title=""
                      src={src(edition, one)}
                      width={one.width}
                      shown={PICTURE.width}
                      height={PICTURE.height}
                    />
                  </button>
                );
              })}
            </li>
          );
        })}
      </ol>
      {sorted.length > most && (
        <Button className="mt-3" onClick={() => setMost(most + SHOWN)}>
          Show {count(Math.min(SHOWN, sorted.length - most))} more of {count(sorted.length)}
        </Button>
      )}
      <Dialog
        open={large !== null}
        onClose={() => setLarge(null)}
        size="large"
        title={large ? `Edition ${large.edition.number}, ${large.view.label.toLowerCase()}` : ""}
        about={
          large
            ? `As ${large.edition.sample.name} gets it, one of ${counted(large.edition.count, "reader")}. A simulation, ${large.view.width} px wide: mail programs of a kind do more or less the same.`
            : undefined
        }
      >
        {large && (
          <>
            <div className="max-h-[60vh] overflow-auto rounded-md border bg-table">
              <iframe
                title={`Edition ${large.edition.number}, ${large.view.label}`}
                src={src(large.edition, large.view)}
                sandbox="allow-same-origin"
                className="mx-auto block h-[58vh] border-0 bg-white"
                // With room for its scroll bar, which takes none of the message’s.
                style={{ width: large.view.width + SCROLL_BAR }}
              />
            </div>
            <div className="mt-4 flex justify-end gap-2">
              <Link
                className={buttonLook()}
                to={`/campaigns/${campaign}/compose?reader=${large.edition.sample.id}`}
              >
                Read as {large.edition.sample.name}
              </Link>
            </div>
          </>
        )}
      </Dialog>
    </>
  );
}
