import { Download } from "lucide-react";
import { useMemo, useState } from "react";
import { addLanguage, commands, heldBy, removeLanguage, translate } from "~/core/compose";
import {
  languageFor,
  languageName,
  languagesOf,
  progressOf,
  translationState,
  type UnitState,
  unitWhere,
  writeXliff,
  XliffError,
} from "~/core/translation";
import { Button } from "../../../ui/button";
import { Choose } from "../../../ui/choose";
import { Dialog } from "../../../ui/dialog";
import { FileButton } from "../../../ui/file-button";
import { Input } from "../../../ui/form";
import { count, counted } from "../../../ui/time";
import { spokenTo } from "../../state/language";
import { useComposer, useComposerStore } from "../../state/store";
import { searchText, UnitRow } from "../../words/unit-row";
import { readBeside } from "./read-beside";

/** Languages that are offered besides those of the readers. */
const COMMON =
  "ar bg ca cs cy da de el en es et eu fi fr ga gl he hr hu is it ja ko lt lv mt nb nl pl pt pt-BR ro ru sk sl sq sr sv tr uk zh-Hans zh-Hant".split(
    " ",
  );

/** Larger files are no words of one email. */
const MOST_BYTES = 8 * 1024 * 1024;

type Filter = "all" | UnitState;
const FILTERS: readonly { value: Filter; label: string }[] = [
  { value: "all", label: "Everything" },
  { value: "missing", label: "Missing" },
  { value: "outdated", label: "Outdated" },
  { value: "done", label: "Translated" },
];

/** The design in its languages: side by side, what is missing and outdated, and out to translators and back. */
export default function LanguagesDialog() {
  const set = useComposer((state) => state.set);
  const email = useComposer((state) => state.email);
  const languages = languagesOf(email);
  const spoken = useComposer(spokenTo);
  const [chosen, setChosen] = useState(spoken);
  const language = languages.includes(chosen) ? chosen : languages[0];
  return (
    <Dialog
      open
      onClose={() => set({ dialog: null })}
      title="Languages"
      about={`The design is in ${languageName(email.language)}. Readers whose language is another one of these get it in theirs; everybody else gets the ${languageName(email.language)}.`}
      size="large"
    >
      <Bar languages={languages} language={language} onChoose={setChosen} />
      {language === undefined ? (
        <p className="rounded-md border border-dashed p-8 text-center text-ink-soft">
          It is in one language only. Add another: its words, links and pictures stand beside these, and what
          is missing is {languageName(email.language)} for the time being.
        </p>
      ) : (
        <Translating key={language} language={language} />
      )}
    </Dialog>
  );
}

function Bar({
  languages,
  language,
  onChoose,
}: {
  languages: readonly string[];
  language: string | undefined;
  onChoose(language: string): void;
}) {
  const store = useComposerStore();
  const email = useComposer((state) => state.email);
  const editions = useComposer((state) => state.editions);
  const fields = useComposer((state) => state.facts.words.fields);
  const readersOf = (one: string) =>
    editions
      .filter(({ sample }) => languageFor(email, sample) === one)
      .reduce((sum, edition) => sum + edition.count, 0);
  const theirs = (fields.find(({ key }) => key === "language")?.options ?? []).map(({ value }) => value);
  const offered = [...new Set([...theirs, ...COMMON])].filter(
    (one) => one !== email.language && !languages.includes(one),
  );
  return (
    <div className="mb-4 flex flex-wrap items-center gap-2">
      <div role="group" aria-label="Languages of the design" className="flex flex-wrap gap-2">
        {languages.map((one) => {
          const { missing, outdated } = progressOf(translationState(email, one));
          const open = missing + outdated;
          return (
            <button
              key={one}
              type="button"
              aria-pressed={one === language}
              onClick={() => onChoose(one)}
              className="rounded-md border px-3 py-1 text-left hover:bg-black/4 aria-pressed:border-mulberry aria-pressed:bg-mulberry-wash"
            >
              <span className="font-medium">{languageName(one)}</span>{" "}
              <span className={open > 0 ? "text-xs text-amber" : "text-xs text-ink-soft"}>
                {open > 0 ? `${open} to do` : "complete"}, {counted(readersOf(one), "reader")}
              </span>
            </button>
          );
        })}
      </div>
      <Choose
        label="Add a language"
        placeholder="Add a language"
        className="w-44!"
        value=""
        options={offered.map((one) => ({
          value: one,
          label: languageName(one),
          ...(theirs.includes(one) && { aside: "of your readers" }),
        }))}
        onChange={(one) => {
          if (store.getState().apply(addLanguage(one), `Adding ${languageName(one)}`)) onChoose(one);
        }}
      />
      <div className="ml-auto flex items-center gap-2 text-ink-soft max-sm:ml-0">
        The design itself is in
        <Choose
          label="Language of the design"
          className="w-36!"
          value={email.language}
          options={[...new Set([email.language, ...theirs, ...COMMON])]
            .filter((one) => !languages.includes(one))
            .map((one) => ({ value: one, label: languageName(one) }))}
          onChange={(one) =>
            store.getState().apply(commands.setWhole({ language: one }), "Saying which language it is")
          }
        />
      </div>
    </div>
  );
}

function Translating({ language }: { language: string }) {
  const store = useComposerStore();
  const email = useComposer((state) => state.email);
  const [filter, setFilter] = useState<Filter>("all");
  const [query, setQuery] = useState("");
  const units = useMemo(() => translationState(email, language), [email, language]);
  const progress = progressOf(units);
  // What was to do when the filter was chosen stays in view while it is done.
  const [kept, setKept] = useState<ReadonlySet<string> | null>(null);
  const keyOf = (unit: (typeof units)[number]) => `${unit.block} ${unit.path}`;
  const choose = (next: Filter) => {
    setFilter(next);
    setKept(next === "all" ? null : new Set(units.filter(({ state }) => state === next).map(keyOf)));
  };
  const wanted = query.trim().toLowerCase();
  const shown = units.filter(
    (unit) =>
      (kept === null || kept.has(keyOf(unit))) &&
      (unit.state !== "same" || unit.kind === "picture" || unit.kind === "address" || unit.there) &&
      searchText(unit).includes(wanted),
  );
  const groups = Map.groupBy(shown, (unit) => unitWhere(email, unit));
  const all = progress.missing + progress.outdated + progress.done;
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <div role="group" aria-label="What is shown" className="flex rounded-md border p-0.5">
          {FILTERS.map(({ value, label }) => (
            <button
              key={value}
              type="button"
              aria-pressed={filter === value}
              onClick={() => choose(value)}
              className="rounded-sm px-2 py-0.5 hover:bg-black/4 aria-pressed:bg-mulberry-wash aria-pressed:text-mulberry"
            >
              {label} {count(value === "all" ? all : progress[value])}
            </button>
          ))}
        </div>
        <Input
          aria-label="Search words"
          placeholder="Search words"
          className="w-44!"
          value={query}
          onChange={(event) => setQuery(event.target.value)}
        />
        <div className="ml-auto flex flex-wrap gap-2 max-sm:ml-0">
          <TakeOut language={language} />
          <BringIn />
          <Button
            kind="quiet"
            onClick={() =>
              store.getState().apply(removeLanguage(language), `Taking ${languageName(language)} away`)
            }
          >
            Remove {languageName(language)}
          </Button>
        </div>
      </div>
      <div className="max-h-[56vh] overflow-y-auto rounded-md border px-4" tabIndex={-1}>
        {[...groups].map(([place, those]) => (
          <section key={`${place} ${those[0].block}`} aria-label={place}>
            <h3 className="sticky top-0 z-10 -mx-4 truncate border-b bg-table px-4 py-1 text-xs font-medium">
              {place}
            </h3>
            {those.map((unit) => (
              <UnitRow key={keyOf(unit)} unit={unit} language={language} own={email.language} />
            ))}
          </section>
        ))}
        {shown.length === 0 && (
          <p className="p-6 text-center text-ink-soft">
            {wanted !== ""
              ? `Nothing says “${query}”.`
              : filter === "missing" || filter === "outdated"
                ? "Nothing is left to do here."
                : "There are no words yet."}
          </p>
        )}
      </div>
    </>
  );
}

/** A file for translators. */
function TakeOut({ language }: { language: string }) {
  const email = useComposer((state) => state.email);
  const name = useComposer((state) => state.facts.tags.campaign?.name) ?? "Email";
  return (
    <Button
      onClick={() => {
        const file = new Blob([writeXliff(email, language, name)], { type: "application/xliff+xml" });
        const link = document.createElement("a");
        link.href = URL.createObjectURL(file);
        link.download = `${name} ${language}.xlf`.replaceAll(/[\\/:*?"<>|]/g, "-");
        link.click();
        URL.revokeObjectURL(link.href);
      }}
    >
      <Download className="size-4" aria-hidden /> For translators
    </Button>
  );
}

/** A file that comes back from them. */
function BringIn() {
  const store = useComposerStore();
  const [said, setSaid] = useState<{ text: string; problems: string[]; bad?: boolean } | null>(null);
  const take = async (file: File) => {
    try {
      if (file.size > MOST_BYTES)
        throw new XliffError("The file is larger than 8 MB: it is not the words of one email.");
      const { email, opened } = store.getState();
      setSaid({ text: "Reading it…", problems: [] });
      const read = await readBeside(await file.text(), email);
      const { language, unchanged, problems } = read;
      const { yes: held = [], no: changes = [] } = Object.groupBy(read.changes, ({ unit }) =>
        unit.block !== null && heldBy(email, unit.block, opened) ? "yes" : "no",
      );
      for (const { unit } of held)
        problems.push(
          `${unitWhere(email, unit)}, ${unit.label.toLowerCase()}: stands in a linked clipping and was left as it is. Open the clipping, and bring the file back again.`,
        );
      const done =
        changes.length === 0 ||
        store
          .getState()
          .apply(
            translate(changes.map(({ unit, there }) => ({ unit, language, there }))),
            `Bringing in ${languageName(language)}`,
          );
      if (!done) return;
      const text = `${languageName(language)}: ${read.changes.length === 0 ? "nothing in it is new" : `${counted(changes.length, "text")} changed`}, ${unchanged} as before.`;
      setSaid({ text, problems });
    } catch (error) {
      if (!(error instanceof XliffError)) throw error;
      setSaid({ text: error.message, problems: [], bad: true });
    }
  };
  return (
    <>
      <FileButton
        label="Bring back"
        accept=".xlf,.xliff,application/xliff+xml"
        onFile={(file) => void take(file)}
      />
      <Dialog
        open={said !== null}
        onClose={() => setSaid(null)}
        title={said?.bad ? "The file was not taken" : "Brought back"}
      >
        <p>{said?.text}</p>
        {said && said.problems.length > 0 && (
          <>
            <p className="mt-3 font-medium">Look at these:</p>
            <ul className="mt-1 max-h-60 list-disc space-y-1 overflow-y-auto pl-5 text-ink-soft">
              {said.problems.map((problem) => (
                <li key={problem}>{problem}</li>
              ))}
            </ul>
          </>
        )}
      </Dialog>
    </>
  );
}
