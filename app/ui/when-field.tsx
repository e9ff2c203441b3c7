import clsx from "clsx";
import { CalendarDays, ChevronLeft, ChevronRight } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { addDays } from "~/core/audience";
import { Temporal } from "~/core/values";
import { IconButton } from "./button";
import { dayText, monthsOn, readDay, readTime, weeksOf } from "./date-text";
import { type Editing, useFieldId } from "./form";

/** Today on the browser's own clock. */
const localToday = (): string => Temporal.Now.plainDateISO().toString();

/** A day, typed as one likes or picked; written so that nobody mistakes it. `value` is `YYYY-MM-DD`, empty when none is chosen. */
export function DayField({
  id,
  label,
  value,
  onChange,
  className,
}: Editing<string> & {
  id?: string;
  label: string;
  className?: string;
}) {
  const fieldId = useFieldId(id);
  const [draft, setDraft] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const understood = draft === null ? null : readDay(draft, localToday());
  const wrong = draft !== null && draft.trim() !== "" && understood === null;
  const take = () => {
    if (draft === null) return;
    if (draft.trim() === "" && value !== "") onChange("");
    setDraft(null);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Anchor asChild>
        <div className={clsx("relative", className)}>
          <input
            id={fieldId}
            aria-label={label}
            aria-invalid={wrong}
            autoComplete="off"
            placeholder="e.g. 3 Dec 2026"
            className={clsx("field pr-8!", wrong && "border-amber!")}
            value={draft ?? dayText(value)}
            onFocus={(event) => event.target.select()}
            onChange={(event) => {
              setDraft(event.target.value);
              const day = readDay(event.target.value, localToday());
              if (day) onChange(day);
            }}
            onBlur={take}
            onKeyDown={(event) => {
              if (event.key === "Enter") take();
              else if (event.key === "ArrowDown" && event.altKey) setOpen(true);
              else return;
              event.preventDefault();
            }}
          />
          <Popover.Trigger asChild>
            <button
              type="button"
              aria-label={`Pick: ${label}`}
              className="absolute top-1 right-1 grid size-6 place-items-center rounded-md hover:bg-black/6"
            >
              <CalendarDays className="size-4 text-ink-soft" aria-hidden />
            </button>
          </Popover.Trigger>
          {draft !== null && draft.trim() !== "" && (
            <p
              role="status"
              className={`absolute top-full left-0 z-10 mt-0.5 rounded-md border bg-paper px-2 py-0.5 text-xs whitespace-nowrap shadow-md ${wrong ? "text-amber" : "text-ink-soft"}`}
            >
              {understood ? dayText(understood) : "Not a day yet: try 3 Dec 2026"}
            </p>
          )}
        </div>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          align="start"
          collisionPadding={8}
          aria-label={label}
          className="z-50 w-68 rounded-lg border bg-paper p-3 shadow-xl"
          onOpenAutoFocus={(event) => event.preventDefault()}
        >
          <Calendar
            value={value}
            onPick={(day) => {
              setDraft(null);
              onChange(day);
              setOpen(false);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const monthText = (month: string) =>
  new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric", timeZone: "UTC" }).format(
    new Date(`${month}-01T00:00Z`),
  );

const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };

function Calendar({ value, onPick }: { value: string; onPick(day: string): void }) {
  const today = localToday();
  const [at, setAt] = useState(value || today);
  const month = at.slice(0, 7);
  const grid = useRef<HTMLTableElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the focus goes along with the day
  useEffect(() => {
    grid.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus();
  }, [at]);
  const press = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (step !== undefined) setAt(addDays(at, step));
    else if (event.key === "PageUp" || event.key === "PageDown")
      setAt(`${monthsOn(month, event.key === "PageUp" ? -1 : 1)}-01`);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <div className="mb-2 flex items-center justify-between">
        <IconButton
          icon={ChevronLeft}
          label="Month before"
          className="size-7!"
          onClick={() => setAt(`${monthsOn(month, -1)}-01`)}
        />
        <span className="font-semibold" aria-live="polite">
          {monthText(month)}
        </span>
        <IconButton
          icon={ChevronRight}
          label="Month after"
          className="size-7!"
          onClick={() => setAt(`${monthsOn(month, 1)}-01`)}
        />
      </div>
      <table ref={grid} aria-label={monthText(month)} className="w-full text-center" onKeyDown={press}>
        <thead className="text-xs text-ink-soft">
          <tr>
            {["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"].map((day) => (
              <th key={day} scope="col" className="pb-1 font-medium">
                {day}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeksOf(month).map((week) => (
            <tr key={week[0]}>
              {week.map((day) => (
                <td key={day} className="p-0">
                  <button
                    type="button"
                    tabIndex={day === at ? 0 : -1}
                    aria-label={dayText(day)}
                    aria-pressed={day === value}
                    aria-current={day === today ? "date" : undefined}
                    onClick={() => onPick(day)}
                    className={clsx(
                      "size-8 rounded-md hover:bg-black/6 aria-pressed:bg-mulberry aria-pressed:text-white aria-[current=date]:font-bold",
                      !day.startsWith(month) && "text-ink-soft opacity-60",
                    )}
                  >
                    {Number(day.slice(8))}
                  </button>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** A time of day, typed as one likes; `value` is `HH:MM`, empty when none is chosen. */
export function TimeField({
  id,
  label,
  value,
  onChange,
}: Editing<string> & {
  id?: string;
  label: string;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const understood = draft === null ? value : readTime(draft);
  const wrong = draft !== null && draft.trim() !== "" && understood === null;
  const take = () => setDraft(null);
  const step = (minutes: number) => {
    const [hours, rest] = (understood || "09:00").split(":").map(Number);
    const total = (hours * 60 + rest + minutes + 1440) % 1440;
    setDraft(null);
    onChange(`${String(Math.floor(total / 60)).padStart(2, "0")}:${String(total % 60).padStart(2, "0")}`);
  };
  return (
    <input
      id={useFieldId(id)}
      aria-label={label}
      aria-invalid={wrong}
      autoComplete="off"
      placeholder="e.g. 18:00"
      title={wrong ? "Not a time yet: try 18:00" : "Arrow keys change it by a quarter of an hour"}
      className={clsx("field", wrong && "border-amber!")}
      value={draft ?? value}
      onFocus={(event) => event.target.select()}
      onChange={(event) => {
        setDraft(event.target.value);
        const time = readTime(event.target.value);
        if (time) onChange(time);
      }}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === "Enter") take();
        else if (event.key === "ArrowUp") step(15);
        else if (event.key === "ArrowDown") step(-15);
        else return;
        event.preventDefault();
      }}
    />
  );
}
