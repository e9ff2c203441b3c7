import type { Rule } from "../audience";
import { type Email, type TagFacts, walk } from "../email";
import { versionsOf } from "../translation";
import { casesIn, fieldsOfTag, lookupRules, lookupsIn, saidIn, tagsOf, wholeRule } from "./said";

/** The fields that a design writes, and the rules of its parts with those around them, of its either/ors and of its lookups: what checks ask. */
export function asksAbout(email: Email, tags: TagFacts = {}): { fields: string[]; rules: Rule[] } {
  const versions = versionsOf(email);
  const said = versions.map((version) => version.email);
  const lines = said.flatMap(saidIn).map(({ line }) => line);
  const fields = said.flatMap(tagsOf).flatMap(({ tag }) => fieldsOfTag(tag));
  const parts = [...walk(email)].flatMap((it) => wholeRule(email, it) ?? []);
  const cases = lines.flatMap(casesIn).map(({ when }) => when);
  const lookups = said.flatMap((one) => lookupsIn(one, tags)).flatMap(lookupRules);
  const languages = versions.flatMap(({ when }) => when ?? []);
  return { fields: [...new Set(fields)], rules: [...parts, ...cases, ...lookups, ...languages] };
}
