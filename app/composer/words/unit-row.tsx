import { useState } from "react";
import { translate } from "~/core/compose";
import { isRichDoc, type SaidThere, type Words, wordSigns } from "~/core/email";
import { languageName, type TranslatedUnit } from "~/core/translation";
import { ChoosePicture } from "../../pictures/choose-picture";
import { Button } from "../../ui/button";
import { Difference } from "../../ui/difference";
import { TypedArea, TypedInput } from "../../ui/typed-field";
import { knowPictures } from "../controls/pictures";
import { say } from "../state/language";
import { useComposer, useComposerStore } from "../state/store";
import { SaidWords } from "./said-words";
import { WordsField } from "./words-field";

const BADGES = {
  missing: { text: "Missing", look: "bg-amber-wash text-amber" },
  outdated: { text: "Outdated", look: "bg-amber-wash text-amber" },
  done: { text: "Translated", look: "bg-green-wash text-green" },
  same: { text: "As it is", look: "text-ink-soft" },
} as const;

/** What is said, as one text, to see what changed in it. */
const asText = (said: SaidThere): string =>
  typeof said === "string"
    ? said
    : isRichDoc(said) || Array.isArray(said)
      ? wordSigns(said)
      : (said as { src: string }).src;

/** Nothing yet, where a unit of its kind stands. */
const nothing = (unit: TranslatedUnit): SaidThere =>
  unit.kind === "prose" ? { type: "doc", content: [{ type: "paragraph" }] } : unit.kind === "line" ? [] : "";

/** One place of the design beside what it says in another language, to be written there. */
export function UnitRow({
  unit,
  language,
  own,
  narrow = false,
}: {
  unit: TranslatedUnit;
  language: string;
  own: string;
  /** Whether both stand under each other. */
  narrow?: boolean;
}) {
  const store = useComposerStore();
  const { state, there } = unit;
  const name = languageName(language);
  const badge = BADGES[state];
  const give = (said: SaidThere) =>
    say(store, unit, said, {
      label: `Translating into ${name}`,
      merge: `translation ${unit.block} ${unit.path}`,
      language,
    });
  const put = (next: { value: SaidThere; of: SaidThere } | null, label: string) =>
    store.getState().apply(translate([{ unit, language, there: next }]), label);
  return (
    <div
      className={`grid border-b py-3 last:border-b-0 ${narrow ? "gap-1.5" : "grid-cols-2 gap-4 max-sm:grid-cols-1 max-sm:gap-2"}`}
      data-unit={`${unit.block ?? "envelope"} ${unit.path}`}
      data-state={state}
    >
      <div className="min-w-0">
        <p className="mb-1 text-xs text-ink-soft">{unit.label}</p>
        {unit.kind === "picture" ? (
          <Shown src={(unit.source as { src: string }).src} />
        ) : (
          <SaidWords said={unit.source} language={own} />
        )}
      </div>
      <div className="min-w-0">
        <p className="mb-1 flex min-h-5 items-center gap-2 text-xs">
          <span className={`rounded-sm px-1.5 ${badge.look}`}>{badge.text}</span>
          {state === "missing" && (
            <Button kind="quiet" className="min-h-5! px-1.5! text-xs" onClick={() => give(unit.source)}>
              Start from the {languageName(own)}
            </Button>
          )}
          {state === "outdated" && there && (
            <Button
              kind="quiet"
              className="min-h-5! px-1.5! text-xs"
              onClick={() => put({ value: there.value, of: unit.source }, "Keeping a translation")}
            >
              It is still right
            </Button>
          )}
          {there && state !== "missing" && (
            <Button
              kind="quiet"
              className="ml-auto min-h-5! px-1.5! text-xs text-ink-soft"
              onClick={() => put(null, "Taking a translation away")}
            >
              Take away
            </Button>
          )}
        </p>
        <Field unit={unit} language={language} onSaid={give} />
        {state === "outdated" && there && unit.kind !== "picture" && (
          <p className="mt-1.5 rounded-md bg-amber-wash px-2 py-1 text-xs wrap-anywhere">
            <span className="font-medium text-amber">{languageName(own)} changed: </span>
            <Difference before={asText(there.of)} after={asText(unit.source)} />
          </p>
        )}
      </div>
    </div>
  );
}

const Shown = ({ src }: { src: string }) =>
  src === "" || src.includes("{$") ? (
    <p className="text-ink-soft">{src === "" ? "No picture yet" : src}</p>
  ) : (
    <img src={src} alt="" className="max-h-24 max-w-full rounded-md border object-contain" />
  );

function Field({
  unit,
  language,
  onSaid,
}: {
  unit: TranslatedUnit;
  language: string;
  onSaid(said: SaidThere): void;
}) {
  const data = useComposer((state) => state.facts);
  const label = `${unit.label} in ${languageName(language)}`;
  const said = unit.there?.value;
  if (unit.kind === "picture")
    return <PictureField src={(said as { src: string } | undefined)?.src} label={label} onSaid={onSaid} />;
  if (unit.kind === "prose" || unit.kind === "line")
    return (
      <WordsField
        kind={unit.kind === "prose" ? "prose" : unit.block === null ? "plain" : "line"}
        words={(said ?? nothing(unit)) as Words}
        label={label}
        placeholder="nothing yet"
        language={language}
        when="seen"
        onWords={(words) => onSaid(words as SaidThere)}
        className="own-words min-h-8.5 rounded-md border bg-paper px-2.5 py-1.5 focus-within:outline-2 focus-within:outline-mulberry"
      />
    );
  const value = typeof said === "string" ? said : "";
  const placeholder = unit.kind === "address" ? (unit.source as string) || "nowhere" : "nothing yet";
  const long = typeof unit.source === "string" && (unit.source.includes("\n") || unit.source.length > 120);
  const Typed = long ? TypedArea : TypedInput;
  return (
    <Typed
      aria-label={label}
      lang={unit.kind === "text" ? language : undefined}
      data={data}
      value={value}
      placeholder={placeholder}
      onChange={onSaid}
    />
  );
}

function PictureField({
  src,
  label,
  onSaid,
}: {
  src: string | undefined;
  label: string;
  onSaid(said: SaidThere): void;
}) {
  const store = useComposerStore();
  const [choosing, setChoosing] = useState(false);
  return (
    <div className="space-y-1.5">
      {src && <Shown src={src} />}
      <Button
        aria-label={src ? `Choose another: ${label}` : `Choose one of its own: ${label}`}
        onClick={() => setChoosing(true)}
      >
        {src ? "Choose another" : "Choose one of its own"}
      </Button>
      <ChoosePicture
        open={choosing}
        onClose={() => setChoosing(false)}
        onChoose={(chosen) => {
          knowPictures(store, [chosen]);
          onSaid({ src: chosen.path, natural: { width: chosen.width, height: chosen.height } });
        }}
      />
    </div>
  );
}

/** A line of a unit as it is searched. */
export const searchText = (unit: TranslatedUnit): string => {
  const own = [unit.label, asText(unit.source), unit.there ? asText(unit.there.value) : ""].join(" ");
  return own.toLowerCase();
};
