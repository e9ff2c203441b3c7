import { Languages } from "lucide-react";
import { findNode } from "~/core/email";
import { languageName, progressOf, translationState } from "~/core/translation";
import { Part } from "../controls/part";
import { spokenTo } from "../state/language";
import { useComposer } from "../state/store";
import { UnitRow } from "./unit-row";

/** What a block says in the language that is on the canvas, where that is not the design's: its texts, links and pictures. */
export function InLanguage({ block }: { block: string }) {
  const email = useComposer((state) => state.email);
  const language = useComposer(spokenTo);
  if (language === email.language) return null;
  const name = languageName(language);
  // Words are written where they stand, on the canvas.
  const units = translationState(email, language).filter(
    (unit) => unit.block === block && unit.kind !== "prose" && unit.kind !== "line",
  );
  return (
    <Part title={`In ${name}`}>
      <p className="text-ink-soft">
        Words written on the canvas are the {name} ones. The rest of the panel is the same in every language.
      </p>
      {findNode(email, block) && units.length > 0 && (
        <div>
          {units.map((unit) => (
            <UnitRow key={unit.path} unit={unit} language={language} own={email.language} narrow />
          ))}
        </div>
      )}
    </Part>
  );
}

/** In which language the reader gets the email, and what is to do in it. */
export function SpokenHere() {
  const email = useComposer((state) => state.resting);
  const language = useComposer(spokenTo);
  const set = useComposer((state) => state.set);
  if (!email.translations) return null;
  const { missing, outdated } = progressOf(
    language === email.language ? [] : translationState(email, language),
  );
  const open = missing + outdated;
  return (
    <button
      type="button"
      title="Languages"
      onClick={() => set({ dialog: "languages" })}
      className="flex shrink-0 items-center gap-1.5 rounded-md px-1.5 py-0.5 whitespace-nowrap hover:bg-black/5"
      data-testid="spoken"
    >
      <Languages className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
      {languageName(language)}
      {open > 0 && <span className="text-amber">{open} to do</span>}
    </button>
  );
}
