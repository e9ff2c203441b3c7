import {
  blocksOf,
  type Email,
  type SaidThere,
  type Translated,
  type Translations,
  withValueAt,
} from "../email";
import { sourceOf, type UnitName, unitKey } from "../translation";
import { type Command, CommandError, commands, plain } from "./commands";

/** What a unit says in a language; null for what the design says. */
export interface TranslationChange {
  unit: UnitName;
  language: string;
  there: Translated | null;
}

/** Whatever holds translations: the email those of the envelope, each block its own. */
type Holder = Pick<Email, "translations">;

function holderOf(draft: Email, block: string | null): Holder {
  if (block === null) return draft;
  const found = blocksOf(draft).find(({ id }) => id === block);
  if (!found) throw new CommandError("It is no longer in the email.");
  return found;
}

function put(holder: Holder, translations: Translations): void {
  if (Object.keys(translations).length > 0) holder.translations = translations;
  else delete holder.translations;
}

/** Says units otherwise in a language, or again as the design does. */
export const translate =
  (changes: readonly TranslationChange[]): Command =>
  (draft) => {
    for (const { unit, language, there } of changes) {
      const holder = holderOf(draft, unit.block);
      const all: Translations = { ...plain(holder.translations) };
      const { [unitKey(unit)]: _, ...others } = all[language] ?? {};
      const said = there === null ? others : { ...others, [unitKey(unit)]: there };
      // The email names its languages even where nothing of the envelope is said in them.
      if (unit.block !== null && Object.keys(said).length === 0) delete all[language];
      else all[language] = said;
      put(holder, all);
    }
  };

/** Says something at a unit in a language; in the design's own it is its words that change. */
export const sayIn =
  (unit: UnitName, language: string, said: SaidThere): Command =>
  (draft) => {
    if (language !== draft.language) {
      const of = sourceOf(plain(draft), unit);
      if (of === undefined) throw new CommandError("It is no longer in the email.");
      translate([{ unit, language, there: { value: said, of } }])(draft);
    } else if (unit.block !== null) commands.setAt(unit.block, unit.path, said)(draft);
    else commands.setEnvelope(withValueAt(plain(draft.envelope), unit.path, said))(draft);
  };

/** Adds a language that the design is to be in. */
export const addLanguage =
  (language: string): Command =>
  (draft) => {
    if (language === draft.language) throw new CommandError("The design is in that language already.");
    put(draft, { ...plain(draft.translations), [language]: plain(draft.translations)?.[language] ?? {} });
  };

/** Takes a language away, with all that is said in it. */
export const removeLanguage =
  (language: string): Command =>
  (draft) => {
    const without = (holder: Holder) => {
      if (!holder.translations) return;
      const { [language]: _, ...others } = plain(holder.translations);
      put(holder, others);
    };
    for (const holder of [draft, ...blocksOf(draft)]) without(holder);
  };
