import { lazy, Suspense } from "react";
import type { RuleWords } from "~/server/audience/words";
import type { GroupEditing } from "./group-editor";
import { firstLine, type Group } from "./groups";
import { type Leaf, RuleLine } from "./line";

const GroupEditor = lazy(() => import("./group-editor"));

/** Writes groups of lines. */
export function LinesEditor<L extends object>(editing: GroupEditing<L>) {
  // What is loaded later is asked for by no type of line.
  const props = editing as unknown as GroupEditing<object>;
  return (
    <Suspense>
      <GroupEditor {...props} />
    </Suspense>
  );
}

const READERS = { outer: "Readers who", inner: "who" };

/** Writes a rule about readers. */
export function RuleEditor({
  words,
  ...editing
}: Pick<GroupEditing<Leaf>, "counts"> & {
  rule: Group;
  onChange(rule: Group): void;
  words: RuleWords;
}) {
  return (
    <LinesEditor<Leaf>
      {...editing}
      about={READERS}
      first={firstLine(words)}
      line={(rule, onChange) => <RuleLine rule={rule} onChange={onChange} words={words} />}
    />
  );
}
