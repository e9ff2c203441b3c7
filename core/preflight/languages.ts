/** The readers of a design by the language that they read it in. */
import type { Rule } from "../audience";
import type { Email } from "../email";
import { versionsOf } from "../translation";
import type { Recipients } from "./finding";

/** An email in one language, and those who get it. */
export interface Spoken {
  language: string;
  /** Who they are. */
  when: Rule;
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
    const who: Rule = when ? { kind: "all", of: [when, rest] } : rest;
    const those = readers.those(who);
    if (when) before.push(when);
    const known = others.find((one) => one.language === language);
    if (language === email.language) continue;
    if (!known) others.push({ language, email: version, readers: those, when: who });
  }
  const away: Rule[] = versions.flatMap(({ language, when }) =>
    when && language !== email.language ? [when] : [],
  );
  return { own: readers.those({ kind: "none", of: away }), others };
}
