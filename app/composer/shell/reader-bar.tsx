import { ChevronLeft, ChevronRight, Monitor, MonitorSmartphone, Moon, Smartphone } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { ReaderPopover } from "../../readers/reader-picker";
import { IconButton } from "../../ui/button";
import { count } from "../../ui/time";
import { useActions } from "../state/actions";
import { editionAt, useComposer } from "../state/store";
import { SpokenHere } from "./spoken-here";

const CLIPPED_AT = 102 * 1024;
const WARN_AT = 90 * 1024;

/** Whose email is on the canvas, which edition it is and how many get it, and how heavy it is. */
export function ReaderBar() {
  const [open, setOpen] = useState(false);
  const actions = useActions();
  const reader = useComposer((state) => state.reader);
  const editions = useComposer((state) => state.editions);
  const edition = useComposer((state) => state.edition);
  const bytes = useComposer((state) => state.bytes);
  const width = useComposer((state) => state.width);
  const both = useComposer((state) => state.both);
  const dark = useComposer((state) => state.dark);
  const counted = useComposer((state) => state.counted);
  const trouble = useComposer((state) => state.trouble);
  const audienceSize = useComposer((state) => state.audienceSize);
  const set = useComposer((state) => state.set);
  const campaign = useComposer((state) => state.facts.campaign);
  const only = useComposer((state) => state.email.only);
  const at = editionAt(editions, edition);
  const heavy = (bytes ?? 0) > WARN_AT;
  return (
    <section
      className="flex h-11 shrink-0 items-center gap-3 overflow-x-auto border-t bg-paper px-3"
      aria-label="Reader"
    >
      <span className="text-ink-soft max-lg:sr-only">Reading as</span>
      <div className="min-w-0 max-w-90 max-sm:max-w-44 max-sm:shrink-0">
        <ReaderPopover
          contact={reader}
          open={open}
          onOpen={setOpen}
          onPick={(picked) => {
            set({ reader: picked });
            setOpen(false);
          }}
        />
      </div>
      <SpokenHere />
      <div className="flex items-center gap-1">
        <IconButton
          icon={ChevronLeft}
          label="Previous edition"
          keys="Alt + ,"
          disabled={editions.length < 2}
          onClick={() => actions.stepEdition(-1)}
        />
        <Link
          to={`/campaigns/${campaign}/all-editions`}
          title="All editions"
          data-testid="edition"
          className="rounded-md px-1 py-0.5 whitespace-nowrap hover:bg-black/5 hover:underline"
        >
          <strong>Edition {at < 0 ? "–" : at + 1}</strong> of {editions.length}
        </Link>
        <IconButton
          icon={ChevronRight}
          label="Next edition"
          keys="Alt + ."
          disabled={editions.length < 2}
          onClick={() => actions.stepEdition(1)}
        />
      </div>
      {trouble ? (
        <span className="truncate text-amber">{trouble}</span>
      ) : (
        <span className="truncate text-ink-soft max-lg:hidden" aria-live="polite" data-counted={counted}>
          {counted === "counting" ? (
            "counting who gets this…"
          ) : counted === "away" ? (
            "not counted: the server is away"
          ) : at >= 0 ? (
            <>
              <strong className="text-teal">{count(editions[at].count)}</strong> of {count(audienceSize)}{" "}
              readers get this one
            </>
          ) : editions.length === 0 ? (
            "no readers yet"
          ) : (
            "not among the chosen readers"
          )}
        </span>
      )}
      {/* What is text only is as large as it is, and the same on every device. */}
      <div className={only ? "hidden" : "ml-auto flex items-center gap-3"}>
        <div className="h-1.5 w-22 overflow-hidden rounded-full bg-[#dcd9e1] max-xl:hidden" aria-hidden>
          <div
            className={`h-full ${heavy ? "bg-amber" : "bg-ink-soft"}`}
            style={{ width: `${Math.min(100, ((bytes ?? 0) / CLIPPED_AT) * 100)}%` }}
          />
        </div>
        <span
          className={`whitespace-nowrap ${heavy ? "font-semibold text-amber" : "text-ink-soft"}`}
          title="Large webmail cuts a message off at 102 KB"
        >
          {bytes === null ? "…" : Math.max(1, Math.round(bytes / 1024))} of 102 KB
        </span>
        <div className="flex border-l pl-2">
          <IconButton
            icon={Monitor}
            label="Desktop width"
            pressed={!both && width === "desktop"}
            onClick={() => set({ width: "desktop", both: false })}
          />
          <IconButton
            icon={Smartphone}
            label="Phone width"
            pressed={!both && width === "phone"}
            onClick={() => set({ width: "phone", both: false })}
          />
          <IconButton
            icon={MonitorSmartphone}
            label="Desktop and phone side by side"
            pressed={both}
            className={`max-[1599px]:hidden`}
            onClick={() => set({ both: !both, width: "desktop" })}
          />
          <IconButton icon={Moon} label="Dark" pressed={dark} onClick={() => set({ dark: !dark })} />
        </div>
      </div>
    </section>
  );
}
