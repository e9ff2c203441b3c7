import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import type { Rule } from "~/core/audience";
import type { RuleWords } from "~/server/audience/words";
import { asGroup, firstLine } from "../rules/groups";
import { RuleEditor } from "../rules/rule-editor";
import { RuleSentence, WhoMeets } from "../rules/rule-words";
import { useReaderCount } from "../rules/use-reader-count";
import { Button } from "../ui/button";
import { Input, Labelled, Problem } from "../ui/form";
import { counted } from "../ui/time";
import { useUnsaved } from "../ui/unsaved";

export interface SegmentDraft {
  /** Empty for a new one. */
  id: string;
  name: string;
  rule: Rule;
}

/** Writes a segment: its sentence, who is in it, and what each line does, while it is written. */
export function SegmentEditor({
  segment,
  words,
  onClose,
}: {
  segment: SegmentDraft;
  words: RuleWords;
  /** With the id, when it was kept. */
  onClose(id?: string): void;
}) {
  const fetcher = useFetcher<{ problem: string | null; result: { id: string } | null }>();
  const [begun] = useState(() => ({
    name: segment.name,
    rule: segment.id === "" ? asGroup<Rule>({ kind: "all", of: [firstLine(words)] }) : asGroup(segment.rule),
  }));
  const [name, setName] = useState(begun.name);
  const [rule, setRule] = useState(begun.rule);
  useUnsaved(JSON.stringify({ name, rule }) !== JSON.stringify(begun) && !fetcher.data?.result);
  const { count, problem, names, parts } = useReaderCount(rule);
  useEffect(() => {
    if (fetcher.data?.result) onClose(fetcher.data.result.id);
  }, [fetcher.data, onClose]);
  return (
    <section className="card space-y-4 p-5" aria-label={segment.id === "" ? "New segment" : "Edit segment"}>
      <Labelled label="Name">
        <Input
          className="max-w-sm"
          value={name}
          autoFocus={segment.id === ""}
          onChange={(event) => setName(event.target.value)}
        />
      </Labelled>
      <RuleEditor
        rule={rule}
        onChange={setRule}
        counts={parts}
        words={{ ...words, segments: words.segments.filter((other) => other.id !== segment.id) }}
      />
      <p className="rounded-md border border-teal/30 bg-teal-wash/60 px-3 py-2 text-teal">
        <RuleSentence rule={rule} words={words} />
      </p>
      {(fetcher.data?.problem ?? problem) && <Problem>{fetcher.data?.problem ?? problem}</Problem>}
      <div className="flex flex-wrap items-center justify-between gap-3">
        <WhoMeets count={count === null ? "Counting…" : counted(count, "reader")} names={names} />
        <div className="flex gap-2">
          <Button onClick={() => onClose()}>Cancel</Button>
          <Button
            kind="primary"
            busy={fetcher.state !== "idle"}
            onClick={() =>
              fetcher.submit(JSON.stringify({ intent: "segment", id: segment.id, name, rule }), {
                method: "post",
                action: "/audience",
                encType: "application/json",
              })
            }
          >
            Save the segment
          </Button>
        </div>
      </div>
    </section>
  );
}
