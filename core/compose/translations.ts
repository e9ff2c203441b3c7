import { blocksOf, type SaidThere, type Translated, type Translations, withValueAt } from "../email";
import type { Edit } from "../steps";
import { sourceOf, type UnitName, unitKey } from "../translation";
import { type Command, CommandError, commands, located } from "./commands";

/** What a unit says in a language; null for what the design says. */
export interface TranslationChange {
  unit: UnitName;
  language: string;
  there: Translated | null;
}

/** The translations of the envelope, which the email holds, for `null`; or those that a block holds. */
function held(edit: Edit, block: string | null): Translations {
  if (block !== null) located(edit, block);
  return (edit.own(block).translations ?? {}) as Translations;
}

function hold(edit: Edit, block: string | null, translations: Translations): void {
  edit.set(block, "translations", Object.keys(translations).length > 0 ? translations : undefined);
}

/** Says units otherwise in a language, or again as the design does. */
export const translate =
  (changes: readonly TranslationChange[]): Command =>
  (edit) => {
    for (const { unit, language, there } of changes) {
      const all = { ...held(edit, unit.block) };
      const { [unitKey(unit)]: _, ...others } = all[language] ?? {};
      const said = there === null ? others : { ...others, [unitKey(unit)]: there };
      // The email names its languages even where nothing of the envelope is said in them.
      if (unit.block !== null && Object.keys(said).length === 0) delete all[language];
      else all[language] = said;
      hold(edit, unit.block, all);
    }
  };

/** Says something at a unit in a language; in the design's own it is its words that change. */
export const sayIn =
  (unit: UnitName, language: string, said: SaidThere): Command =>
  (edit) => {
    const { language: own, envelope } = edit.email;
    if (language !== own) {
      const of = sourceOf(edit.email, unit);
      if (of === undefined) throw new CommandError("It is no longer in the email.");
      translate([{ unit, language, there: { value: said, of } }])(edit);
    } else if (unit.block !== null) commands.setAt(unit.block, unit.path, said)(edit);
    else commands.setEnvelope(withValueAt(envelope, unit.path, said))(edit);
  };

/** Adds a language that the design is to be in. */
export const addLanguage =
  (language: string): Command =>
  (edit) => {
    if (language === edit.email.language) throw new CommandError("The design is in that language already.");
    hold(edit, null, { [language]: {}, ...held(edit, null) });
  };

/** Takes a language away, with all that is said in it. */
export const removeLanguage =
  (language: string): Command =>
  (edit) => {
    for (const block of [null, ...blocksOf(edit.email).map(({ id }) => id)]) {
      const { [language]: _, ...others } = held(edit, block);
      hold(edit, block, others);
    }
  };
