import type { Email } from "../../email";
import { languageName, progressOf, translationState } from "../../translation";
import type { Check } from "../check";
import type { Finding } from "../finding";
import { byLanguage, type Spoken } from "../languages";

const texts = (count: number, how: string) =>
  count === 1 ? `1 text is ${how}` : `${count} texts are ${how}`;

/** Languages in which something is missing or outdated, with how many read it so. */
function translations(email: Email, others: readonly Spoken[]): Finding[] {
  return others.flatMap(({ language, when, readers: { count } }): Finding[] => {
    const units = translationState(email, language);
    const { missing, outdated } = progressOf(units);
    const what = [
      ...(missing > 0 ? [texts(missing, "missing")] : []),
      ...(outdated > 0 ? [texts(outdated, "outdated")] : []),
    ];
    if (what.length === 0 || count === 0) return [];
    const who = count === 1 ? "1 reader gets" : `${count.toLocaleString("en")} readers get`;
    const first = units.find(
      ({ state, block }) => block !== null && (state === "missing" || state === "outdated"),
    );
    const how = missing > 0 ? `those in ${languageName(email.language)}` : "them as they were";
    return [
      {
        weight: "look",
        text: `${languageName(language)}: ${what.join(" and ")}, and ${who} ${how}. Look under Languages.`,
        when,
        ...(first?.block && { block: first.block }),
      },
    ];
  });
}

export const translationsCheck: Check = {
  name: "translations",
  group: "readers",
  label: "translations",
  why: "Somebody reads half a letter in a language they may not know.",
  design: (email, { readers }) => translations(email, byLanguage(email, readers).others),
};
