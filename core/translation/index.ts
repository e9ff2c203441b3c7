/**
 * One design in several languages. `unitsOf` are the places that can say something else in each; `translationState`
 * says how far they are; `translated` is the design in a language, `versionsOf` all of them with who gets which;
 * `writeXliff` and `readXliff` take the words to translators and back (XLIFF 2.1).
 */
export { baseOf, languageAsked, languageFor, languageName, versionsOf } from "./languages";
export { progressOf, type TranslatedUnit, translationState, type UnitState } from "./state";
export { translated, translatedBlock, untranslated } from "./translated";
export {
  languagesOf,
  sourceOf,
  translatedIn,
  translationOf,
  type UnitName,
  unitKey,
  unitsOf,
  unitsOfBlock,
  unitWhere,
} from "./units";
export { type FromTranslators, readXliff, XliffError } from "./xliff/read";
export { writeXliff } from "./xliff/write";
