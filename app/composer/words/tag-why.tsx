import { ruleNames } from "~/core/audience";
import type { MergeTag } from "~/core/email";
import { tagReason } from "~/core/personal";
import { readerData } from "../../readers/reader-data";
import { InWords } from "../../rules/why";
import { useComposer } from "../state/store";

/** Where what this reader gets for a tag comes from. */
export function TagWhy({ tag }: { tag: MergeTag }) {
  const reader = useComposer((state) => state.reader);
  const facts = useComposer((state) => state.facts);
  const own = readerData(facts).filter((it) => it.of === "reader");
  const why = tagReason(tag, reader, {
    audience: facts.audience,
    names: ruleNames(facts.words),
    lookups: facts.tags.lookups ?? [],
    label: (field) => own.find(({ key }) => key === field)?.label,
  });
  return why && <InWords words={why} />;
}
