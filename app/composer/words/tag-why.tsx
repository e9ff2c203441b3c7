import { fieldValue } from "~/core/audience";
import { lookupNamed, type MergeTag } from "~/core/email";
import { readerData } from "../../readers/reader-data";
import { useComposer } from "../state/store";
import { caseFor } from "../state/values";
import { CaseWhy } from "./case-why";

/** Where what this reader gets for a tag comes from. */
export function TagWhy({ tag }: { tag: MergeTag }) {
  const reader = useComposer((state) => state.reader);
  const facts = useComposer((state) => state.facts);
  const { audience, tags } = facts;
  const data = readerData(facts);
  const label = (field: string) => data.find(({ key }) => key === field)?.label ?? field;
  const found = lookupNamed(tag.field, tags.lookups);
  if (found) {
    const { cases } = found.lookup;
    const at = caseFor(
      { cases: cases.map(({ when }) => ({ when, words: [] })), otherwise: [] },
      reader,
      audience,
    );
    return (
      <>
        {at < 0 ? "What everybody else gets" : `The case “${cases[at].name || at + 1}”`}
        <CaseWhy whens={cases.map(({ when }) => when)} at={at} />.
      </>
    );
  }
  if (data.find(({ key }) => key === tag.field)?.of !== "reader") return null;
  const has = (field: string) => {
    const value = fieldValue(reader, field);
    return (
      value !== undefined && value !== null && value !== "" && !(Array.isArray(value) && value.length === 0)
    );
  };
  if (has(tag.field)) return <>From “{label(tag.field)}”.</>;
  if (tag.or && has(tag.or))
    return (
      <>
        From “{label(tag.or)}”, because “{label(tag.field)}” is not known.
      </>
    );
  return (
    <>
      {tag.fallback === "" ? "Nothing" : "What stands for those without it"}, because “{label(tag.field)}” is
      not known.
    </>
  );
}
