/** What asks for fields or sources that are not there. */
import { visitRule } from "../../audience";
import { sourcesOf } from "../../blocks";
import { asksReader, blocksOf, type Email, walk } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { casesIn, fieldsOfTag, finding, lookupsIn, saidIn, tagsOf } from "../said";

/** Tags and rules that ask for a field that is not there, and blocks filled from a source that is not. */
function goneData(email: Email, { there, tags = {} }: Circumstances): Finding[] {
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

export const goneDataCheck: Check = {
  name: "gone-data",
  group: "readers",
  label: "fields and sources that are there",
  why: "Nobody can meet such a rule, and nothing comes of such a tag.",
  design: goneData,
};
