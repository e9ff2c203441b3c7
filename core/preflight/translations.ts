/** What a design does not say yet in one of its languages. */
import type { Rule } from "../audience";
import type { Email } from "../email";
import { languageName, progressOf, translationState, versionsOf } from "../translation";
import type { Finding, Recipients } from "./finding";

/** An email in one language, and those who get it. */
interface Spoken {
  language: string;
  email: Email;
  readers: Recipients;
}

/** The readers of a design by the language they get it in: its own, and the others it is in. */
export function byLanguage(email: Email, readers: Recipients): { own: Recipients; others: Spoken[] } {
  const before: Rule[] = [];
  const others: Spoken[] = [];
  const versions = versionsOf(email);
  if (versions.length === 1 || readers.count === 0) return { own: readers, others };
  for (const { language, when, email: version } of versions) {
    const rest: Rule = { kind: "none", of: [...before] };
    const those = readers.those(when ? { kind: "all", of: [when, rest] } : rest);
    if (when) before.push(when);
    const known = others.find((one) => one.language === language);
    if (language === email.language) continue;
    if (!known) others.push({ language, email: version, readers: those });
  }
  const away: Rule[] = versions.flatMap(({ language, when }) =>
    when && language !== email.language ? [when] : [],
  );
  return { own: readers.those({ kind: "none", of: away }), others };
}

const texts = (count: number, how: string) =>
  count === 1 ? `1 text is ${how}` : `${count} texts are ${how}`;

/** Languages in which something is missing or outdated, with how many read it so. */
export function translations(email: Email, others: readonly Spoken[]): Finding[] {
  return others.flatMap(({ language, readers: { count } }): Finding[] => {
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
        ...(first?.block && { block: first.block }),
      },
    ];
  });
}
