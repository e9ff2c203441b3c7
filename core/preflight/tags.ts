/** Tags that write nothing, ask for what is gone, or cannot be read. */
import { isAddress, type Rule, RuleError, visitRule } from "../audience";
import { sourcesOf } from "../blocks";
import {
  asksReader,
  blocksOf,
  constantOf,
  type Email,
  hasTyped,
  type Lookup,
  lookupNamed,
  readTyped,
  type TagFacts,
  tagsIn,
  walk,
} from "../email";
import type { Circumstances, Finding } from "./finding";
import { casesIn, fieldsOfTag, saidIn, tagsOf, typedIn, type Where } from "./said";

const finding = (weight: Finding["weight"], { where, block }: Where, text: string): Finding => ({
  weight,
  text: `${where} ${text}`,
  ...(block !== undefined && { block }),
});

const CODE = "code.";
const isElsewhere = (field: string) => /^(code|lookup|date|system|item)\./.test(field);
const readers = (count: number) =>
  count === 1 ? "1 reader lacks" : `${count.toLocaleString("en")} readers lack`;

/** Typed tags that cannot be read, each with its line. */
export function typedMistakes(email: Email): Finding[] {
  return typedIn(email).flatMap(({ text, ...where }) =>
    readTyped(text).mistakes.map(({ at, length, text: wrong }) => {
      const line = text.slice(0, at).split("\n").length;
      const typed = text.slice(at, at + Math.min(length, 40));
      return finding("stops", where, `has a tag that cannot be read, “${typed}”, in line ${line}: ${wrong}`);
    }),
  );
}

/** Tags that come out empty for some of those who get them. */
export function withoutFallback(email: Email, { readers: those, brand, tags }: Circumstances): Finding[] {
  const { sender } = email.envelope;
  const known = { ...tags, brand, sender: { name: "sender", address: sender.address || "sender" } };
  return tagsOf(email).flatMap(({ tag, ...where }): Finding[] => {
    if (tag.fallback !== "" || isElsewhere(tag.field) || constantOf(tag, known) !== undefined) return [];
    const count = those.lacking(fieldsOfTag(tag));
    if (count === 0) return [];
    const field = tag.field.replaceAll("_", " ");
    const text = `writes “${field}”, which ${readers(count)}, and has no fallback: they get nothing there. Press the tag to give one.`;
    return [finding("look", where, text)];
  });
}

/** Tags that ask for a lookup or a batch of codes that is not there. */
export function gone(email: Email, { tags = {} }: Circumstances): Finding[] {
  return tagsOf(email).flatMap(({ tag, ...where }): Finding[] => {
    const { field, fallback } = tag;
    const missing = field.startsWith("lookup.")
      ? lookupNamed(field, tags.lookups) === null && "lookup"
      : field.startsWith(CODE) && !tags.codes?.some(({ key }) => field === CODE + key) && "batch of codes";
    if (!missing) return [];
    const name = field.slice(field.indexOf(".") + 1);
    return [
      finding(
        fallback === "" ? "stops" : "look",
        where,
        `asks for the ${missing} “${name}”, which is not there${fallback === "" ? "" : `: everybody gets “${fallback}”`}. Choose another, or take the tag out.`,
      ),
    ];
  });
}

/** Links that lead to an item that its source does not have, or that has no such address, any more. */
export function goneTargets(email: Email, { tags = {}, brand }: Circumstances): Finding[] {
  return typedIn(email).flatMap(({ text, ...where }) =>
    tagsIn(text).flatMap((tag): Finding[] => {
      if (!tag.of || constantOf({ ...tag, fallback: "" }, { ...tags, brand }) !== undefined) return [];
      const kept = tag.fallback !== "";
      const text = `leads to something that its source does not have any more${kept ? `: it leads to ${tag.fallback}, where that was` : ""}. Search for another.`;
      return [finding(kept ? "look" : "stops", where, text)];
    }),
  );
}

/** Tags and rules that ask for a field that is not there, and blocks filled from a source that is not. */
export function goneData(email: Email, { there, tags = {} }: Circumstances): Finding[] {
  if (!there) return [];
  const isGone = (field: string) => asksReader(field) && !there.fields.has(field);
  const asked = tagsOf(email).flatMap(({ tag, ...where }): Finding[] => {
    const field = fieldsOfTag(tag).find(isGone);
    if (field === undefined) return [];
    const gets = tag.fallback === "" ? "everybody gets nothing there" : `everybody gets “${tag.fallback}”`;
    const text = `asks for the field “${field.replaceAll("_", " ")}”, which is not there: ${gets}. Choose another, or take the tag out.`;
    return [finding("look", where, text)];
  });
  const rules = [
    ...[...walk(email)].flatMap((it) =>
      it.kind === "column" || !it.node.show
        ? []
        : [{ rule: it.node.show, ...(it.kind === "block" && { block: it.node.id }), where: "A show rule" }],
    ),
    ...saidIn(email).flatMap(({ line, ...where }) =>
      casesIn(line).map(({ when }) => ({ rule: when, ...where })),
    ),
    ...lookupsIn(email, tags).flatMap(({ name, cases }) =>
      cases.map(({ when }) => ({ rule: when, where: `The lookup “${name}”` })),
    ),
  ].flatMap(({ rule, ...where }): Finding[] => {
    const gone = new Set<string>();
    visitRule(rule, (leaf) => {
      if (leaf.kind === "field" && isGone(leaf.field)) gone.add(leaf.field);
    });
    return [...gone].map((field) =>
      finding(
        "stops",
        where,
        `asks for the field “${field.replaceAll("_", " ")}”, which is not there: nobody has it. Change the rule.`,
      ),
    );
  });
  const sources = blocksOf(email).flatMap((block): Finding[] =>
    sourcesOf(block).some((source) => !there.sources.has(source))
      ? [
          {
            weight: "stops",
            text: "A block is filled from a source that is not there. Choose another, or delete the block.",
            block: block.id,
          },
        ]
      : [],
  );
  return [...asked, ...rules, ...sources];
}

/** Blocks that count friends while there is no programme. */
export function withoutProgramme(email: Email, { tags = {} }: Circumstances): Finding[] {
  return blocksOf(email).flatMap((block): Finding[] =>
    block.type === "refer" && block.programme === true && !tags.referrals
      ? [
          {
            weight: "stops",
            text: "A block asks for friends by each reader’s own link, but the programme is off. Switch it on under Referrals.",
            block: block.id,
          },
        ]
      : [],
  );
}

/** The lookups that a design asks. */
export function lookupsIn(email: Email, { lookups }: TagFacts): Lookup[] {
  const asked = tagsOf(email).flatMap(({ tag }) => lookupNamed(tag.field, lookups)?.lookup ?? []);
  return [...new Set(asked)];
}

const nobodyElse = ({ cases }: Lookup): Rule => ({ kind: "none", of: cases.map(({ when }) => when) });

/** The rules that tell the cases of a lookup apart, and those who meet none. */
export const lookupRules = (lookup: Lookup): Rule[] => [
  ...lookup.cases.map(({ when }) => when),
  nobodyElse(lookup),
];

/** Lookups whose rules cannot be answered, and those that say nothing to some readers. */
export function lookupCases(email: Email, { readers: those, tags = {} }: Circumstances): Finding[] {
  if (those.count === 0) return [];
  const rules = lookupsIn(email, tags).flatMap((lookup): Finding[] =>
    lookup.cases.flatMap(({ name, when }, at): Finding[] => {
      const where = { where: `The lookup “${lookup.name}”` };
      const which = name === "" ? `case ${at + 1}` : `the case “${name}”`;
      try {
        if (!those.namesGone(when)) return [];
        return [finding("stops", where, `asks in ${which} for a list that was deleted. Change its rule.`)];
      } catch (error) {
        if (!(error instanceof RuleError)) throw error;
        return [finding("stops", where, `cannot answer the rule of ${which}: ${error.message}`)];
      }
    }),
  );
  if (rules.length > 0) return rules;
  return tagsOf(email).flatMap(({ tag, ...where }): Finding[] => {
    const found = lookupNamed(tag.field, tags.lookups);
    if (!found || tag.fallback !== "") return [];
    const { lookup, part } = found;
    const before: Rule[] = [];
    for (const { name, when, value } of lookup.cases) {
      const only: Rule = { kind: "all", of: [when, { kind: "none", of: [...before] }] };
      before.push(when);
      if ((value[part] ?? "").trim() === "" && those.anybody(only))
        return [
          finding("look", where, `writes nothing for readers of the case “${name}” of “${lookup.name}”.`),
        ];
    }
    if ((lookup.otherwise[part] ?? "").trim() !== "" || !those.anybody(nobodyElse(lookup))) return [];
    return [
      finding(
        "look",
        where,
        `writes nothing for readers who are in no case of “${lookup.name}”. Say there what everybody else gets, or give the tag a fallback.`,
      ),
    ];
  });
}

/** Senders' addresses from a lookup that are none. */
export function senders({ envelope: { sender } }: Email, { tags = {} }: Circumstances): Finding[] {
  return [
    { text: sender.address, where: "The sender’s address" },
    { text: sender.replyTo ?? "", where: "The address for answers" },
  ].flatMap(({ text, where }): Finding[] => {
    if (!hasTyped(text))
      return text === "" || isAddress(text.trim())
        ? []
        : [finding("stops", { where }, `is no email address: “${text}”.`)];
    return tagsIn(text).flatMap((tag): Finding[] => {
      const found = lookupNamed(tag.field, tags.lookups);
      if (!found) return [];
      const { lookup, part } = found;
      const values = [...lookup.cases.map(({ value }) => value), lookup.otherwise].map(
        (value) => (value[part] ?? "").trim() || tag.fallback,
      );
      const wrong = values.find((value) => !hasTyped(value) && !isAddress(value));
      return wrong === undefined
        ? []
        : [
            finding(
              "stops",
              { where },
              `comes from “${lookup.name}”, which says “${wrong}” to some readers: that is no email address.`,
            ),
          ];
    });
  });
}
