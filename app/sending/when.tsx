/** When a campaign goes: now, at a time, or again and again. */
import { useEffect, useState } from "react";
import {
  momentWords,
  NTHS,
  nextDates,
  nthWords,
  type Rhythm,
  RhythmSchema,
  WEEKDAY_NAMES,
} from "~/core/sending";
import { Choose } from "../ui/choose";
import { dayText } from "../ui/date-text";
import { Choice, Input, Labelled } from "../ui/form";
import { NumberField } from "../ui/number-field";
import { Switch } from "../ui/switch";
import { DayField, TimeField } from "../ui/when-field";
import { ZoneChoice } from "../ui/zone-choice";

/** By how many percent the number of readers may change until it goes. */
export const TOLERANCES = ["usual", "10", "25", "50", "100"] as const;
export type Tolerance = (typeof TOLERANCES)[number];
const TOLERANCE_WORDS: Record<Tolerance, string> = {
  usual: "by more than 5 %, or 200 readers",
  "10": "by more than 10 %",
  "25": "by more than 25 %",
  "50": "by more than 50 %",
  "100": "never: send it to however many there are",
};

type Every = Rhythm["days"]["every"];
const EVERY: readonly { value: Every; label: string }[] = [
  { value: "day", label: "Every day" },
  { value: "workday", label: "From Monday to Friday" },
  { value: "week", label: "Every week" },
  { value: "monthDay", label: "Every month, on a date" },
  { value: "monthWeekday", label: "Every month, on a weekday" },
];

/** What is chosen so far. */
export interface WhenChosen {
  when: "now" | "later" | "again";
  date: string;
  time: string;
  zone: string;
  tolerance: Tolerance;
  every: Every;
  /** Days of the week, 1 is Monday. */
  on: readonly number[];
  day: number;
  nth: (typeof NTHS)[number];
  weekday: number;
  ends: "never" | "date" | "number";
  lastDay: string;
  times: number;
  /** Only where so many items are new; null whatever there is. */
  least: number | null;
  tells: string;
}

export function useWhen(): [WhenChosen, (part: Partial<WhenChosen>) => void] {
  const [chosen, setChosen] = useState<WhenChosen>({
    when: "now",
    date: "",
    time: "10:00",
    zone: "Europe/London",
    tolerance: "usual",
    every: "week",
    on: [1],
    day: 1,
    nth: 1,
    weekday: 1,
    ends: "never",
    lastDay: "",
    times: 10,
    least: null,
    tells: "",
  });
  const set = (part: Partial<WhenChosen>) => setChosen((before) => ({ ...before, ...part }));
  // Whoever books thinks in the time of their own clock.
  useEffect(
    () => setChosen((before) => ({ ...before, zone: Intl.DateTimeFormat().resolvedOptions().timeZone })),
    [],
  );
  return [chosen, set];
}

/** The rhythm that is chosen; why not, where it is none. */
export function rhythmOf(chosen: WhenChosen): { rhythm: Rhythm } | { why: string } {
  const { every, on, day, nth, weekday, time, zone, ends, lastDay, times } = chosen;
  const days = {
    day: { every },
    workday: { every },
    week: { every, on },
    monthDay: { every, day },
    monthWeekday: { every, nth, weekday },
  }[every];
  const read = RhythmSchema.safeParse({
    days,
    time,
    zone,
    ...(ends === "date" && { ends: { by: "date", date: lastDay } }),
    ...(ends === "number" && { ends: { by: "number", number: times } }),
  });
  return read.success ? { rhythm: read.data } : { why: read.error.issues[0].message };
}

/** The addresses that are told, as they were typed. */
export const tellsOf = ({ tells }: WhenChosen): string[] => tells.split(/[\s,;]+/).filter(Boolean);

/** When it goes, as its confirmation says it. */
export function momentChosen({ when, date, time, zone }: WhenChosen): string {
  return when === "now"
    ? "now"
    : `${dayText(date) || "on a date to choose"}, ${time} ${zone.replaceAll("_", " ")}`;
}

interface Setting {
  chosen: WhenChosen;
  set(part: Partial<WhenChosen>): void;
}

export function WhenFields({ chosen, set, now }: Setting & { now: number }) {
  return (
    <>
      <div className="w-84 max-w-full">
        <Choice
          label="When"
          value={chosen.when}
          onChange={(when) => set({ when })}
          options={[
            { value: "now", label: "Now" },
            { value: "later", label: "At a time" },
            { value: "again", label: "Again and again" },
          ]}
        />
      </div>
      {chosen.when === "later" && (
        <Clock chosen={chosen} set={set}>
          <Labelled label="Date">
            <DayField label="Date" value={chosen.date} onChange={(date) => set({ date })} />
          </Labelled>
        </Clock>
      )}
      {chosen.when === "again" && <Repeating chosen={chosen} set={set} now={now} />}
      {chosen.when !== "now" && (
        <Labelled label="Wait and ask first if the number of readers changes">
          <Choose<Tolerance>
            label="Wait and ask first if the number of readers changes"
            value={chosen.tolerance}
            options={TOLERANCES.map((it) => ({ value: it, label: TOLERANCE_WORDS[it] }))}
            onChange={(tolerance) => set({ tolerance })}
          />
        </Labelled>
      )}
    </>
  );
}

function Clock({ chosen, set, children }: Setting & { children: React.ReactNode }) {
  return (
    <div className="grid grid-cols-[minmax(170px,auto)_90px_minmax(0,1fr)] gap-2 max-sm:grid-cols-1">
      {children}
      <Labelled label="Time">
        <TimeField label="Time" value={chosen.time} onChange={(time) => set({ time })} />
      </Labelled>
      <Labelled label="Zone">
        <ZoneChoice label="Zone" value={chosen.zone} onChange={(zone) => set({ zone })} />
      </Labelled>
    </div>
  );
}

const DAY_OPTIONS = WEEKDAY_NAMES.map((label, at) => ({ value: String(at + 1), label }));

function Repeating({ chosen, set, now }: Setting & { now: number }) {
  const { every, on, least } = chosen;
  const turn = (day: number) => set({ on: on.includes(day) ? on.filter((it) => it !== day) : [...on, day] });
  return (
    <>
      <Clock chosen={chosen} set={set}>
        <Labelled label="Repeats">
          <Choose<Every>
            label="Repeats"
            value={every}
            options={EVERY}
            onChange={(next) => set({ every: next })}
          />
        </Labelled>
      </Clock>
      {every === "week" && (
        <fieldset className="flex flex-wrap gap-1">
          <legend className="sr-only">On these days</legend>
          {WEEKDAY_NAMES.map((name, at) => (
            <button
              key={name}
              type="button"
              aria-pressed={on.includes(at + 1)}
              aria-label={name}
              onClick={() => turn(at + 1)}
              className="min-h-8 min-w-11 rounded-md border border-line px-2 text-ink-soft hover:bg-black/4 aria-pressed:border-mulberry aria-pressed:bg-mulberry-wash aria-pressed:font-semibold aria-pressed:text-ink"
            >
              {name.slice(0, 3)}
            </button>
          ))}
        </fieldset>
      )}
      {every === "monthDay" && (
        <Labelled label="Day of the month">
          <NumberField
            label="Day of the month"
            className="w-20!"
            min={1}
            max={31}
            value={chosen.day}
            onChange={(day) => set({ day })}
          />
        </Labelled>
      )}
      {every === "monthWeekday" && (
        <div className="grid grid-cols-2 gap-2">
          <Choose
            label="Which of the month"
            value={String(chosen.nth)}
            options={NTHS.map((nth) => ({ value: String(nth), label: `the ${nthWords(nth)}` }))}
            onChange={(nth) => set({ nth: Number(nth) as WhenChosen["nth"] })}
          />
          <Choose
            label="Weekday"
            value={String(chosen.weekday)}
            options={DAY_OPTIONS}
            onChange={(weekday) => set({ weekday: Number(weekday) })}
          />
        </div>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <Switch checked={least !== null} onChange={(yes) => set({ least: yes ? 1 : null })}>
          Only when something is new
        </Switch>
        {least !== null && (
          <>
            <span>at least</span>
            <NumberField
              label="New items at least"
              className="w-16!"
              min={1}
              max={100}
              value={least}
              onChange={(it) => set({ least: it })}
            />
            <span>{least === 1 ? "item" : "items"}</span>
          </>
        )}
      </div>
      <div className="grid grid-cols-[170px_minmax(0,1fr)] items-end gap-2 max-sm:grid-cols-1">
        <Labelled label="Ends">
          <Choose<WhenChosen["ends"]>
            label="Ends"
            value={chosen.ends}
            options={[
              { value: "never", label: "Never" },
              { value: "date", label: "After a day" },
              { value: "number", label: "After a number" },
            ]}
            onChange={(ends) => set({ ends })}
          />
        </Labelled>
        {chosen.ends === "date" && (
          <DayField label="Last day" value={chosen.lastDay} onChange={(lastDay) => set({ lastDay })} />
        )}
        {chosen.ends === "number" && (
          <NumberField
            label="Times"
            className="w-20!"
            min={1}
            max={1000}
            value={chosen.times}
            onChange={(times) => set({ times })}
          />
        )}
      </div>
      <Labelled label="Tell when it went or was skipped" hint="Addresses, with a comma between them.">
        <Input
          aria-label="Tell when it went or was skipped"
          value={chosen.tells}
          placeholder="you@organisation.example"
          onChange={(event) => set({ tells: event.target.value })}
        />
      </Labelled>
      <NextDates chosen={chosen} now={now} />
    </>
  );
}

function NextDates({ chosen, now }: { chosen: WhenChosen; now: number }) {
  const read = rhythmOf(chosen);
  if ("why" in read) return <p className="text-amber">{read.why}</p>;
  const { rhythm } = read;
  const left = rhythm.ends?.by === "number" ? rhythm.ends.number : undefined;
  const dates = nextDates(rhythm, now, 4, left);
  return (
    <p className="text-ink-soft" data-testid="next-dates">
      {dates.length === 0
        ? "Its last day is over before its first date."
        : `Next: ${dates.map((epoch) => momentWords({ epoch, zone: rhythm.zone }).replace(/ \(.*/, "")).join(" · ")}`}
    </p>
  );
}
