import { findNode } from "~/core/email";
import { languageName, translationState } from "~/core/translation";
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
