import { Plus, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import { useRef } from "react";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { count } from "../ui/time";
import type { GroupOf } from "./groups";
import type { PartCounts } from "./use-reader-count";

export interface GroupEditing<L> {
  rule: GroupOf<L>;
  onChange(rule: GroupOf<L>): void;
  /** One line of it. */
  line(rule: L, onChange: (rule: L) => void): ReactNode;
  /** What a new line says. */
  first: L;
  /** Whom or what the rule is about: "Readers who". */
  about: { outer: string; inner: string };
  /** By the places of lines, such as "1.0"; missing while they are counted. */
  counts?: PartCounts;
}

/** How deep groups may stand in groups. */
const DEEPEST = 3;

/**
 * Writes a rule as a sentence: lines that must all, any or none be met, and groups of lines inside. Beside each line
 * stands what it takes away or brings.
 */
export default function GroupEditor<L extends object>({
  rule,
  onChange,
  line,
  first,
  about,
  counts,
  path = "",
}: GroupEditing<L> & { path?: string }) {
  const box = useRef<HTMLFieldSetElement>(null);
  const depth = path === "" ? 0 : path.split(".").length;
  const setPart = (index: number, part: L | GroupOf<L>) =>
    onChange({ ...rule, of: rule.of.map((old, at) => (at === index ? part : old)) });
  /** The focus goes to a line, or to where one is added, once it is there. */
  const focusOn = (index: number) =>
    requestAnimationFrame(() => {
      const lines = box.current?.querySelectorAll<HTMLElement>(":scope > div > [data-line]");
      const line = lines?.[Math.min(index, lines.length - 1)];
      (line ?? box.current)?.querySelector<HTMLElement>("[data-choose]")?.focus();
    });
  const add = (part: L | GroupOf<L>) => {
    onChange({ ...rule, of: [...rule.of, part] });
    focusOn(rule.of.length);
  };
  const remove = (index: number) => {
    onChange({ ...rule, of: rule.of.filter((_, at) => at !== index) });
    focusOn(index);
  };
  return (
    <fieldset
      ref={box}
      className={depth > 0 ? "rounded-md border border-teal/40 p-2.5" : ""}
      aria-label={depth > 0 ? "Group of lines" : "Lines"}
    >
      <div className="mb-2 flex flex-wrap items-center gap-x-2 gap-y-1">
        <span>{depth === 0 ? about.outer : about.inner} meet</span>
        <Choose
          label="How lines are joined"
          className="w-20!"
          value={rule.kind}
          onChange={(kind) => onChange({ ...rule, kind })}
          options={[
            { value: "all", label: "all" },
            { value: "any", label: "any" },
            { value: "none", label: "none" },
          ]}
        />
        <span>of these</span>
      </div>
      <div className="space-y-2">
        {rule.of.map((part, index) => {
          const place = path === "" ? String(index) : `${path}.${index}`;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines have no identity besides their place
            <div key={index} data-line className="flex items-start gap-1 border-t border-teal/20 pt-2">
              <div className="min-w-0 grow">
                {"of" in part ? (
                  <GroupEditor
                    rule={part}
                    onChange={(next) => setPart(index, next)}
                    line={line}
                    first={first}
                    about={about}
                    counts={counts}
                    path={place}
                  />
                ) : (
                  line(part, (next) => setPart(index, next))
                )}
                <Effect kind={rule.kind} counted={counts?.[place]} />
              </div>
              <IconButton
                icon={Trash2}
                label={"of" in part ? "Remove this group" : "Remove this line"}
                onClick={() => remove(index)}
              />
            </div>
          );
        })}
      </div>
      <div className="mt-2 flex gap-2">
        <Button onClick={() => add(first)}>
          <Plus className="size-4" aria-hidden /> Line
        </Button>
        {depth < DEEPEST - 1 && (
          <Button kind="quiet" onClick={() => add({ kind: "any", of: [first] })}>
            <Plus className="size-4" aria-hidden /> Group
          </Button>
        )}
      </div>
    </fieldset>
  );
}

/** What a line does to those that are left after the lines before it. */
function Effect({ kind, counted }: { kind: GroupOf<unknown>["kind"]; counted?: PartCounts[string] }) {
  if (!counted) return <p className="mt-1 h-4" />;
  const { change, left } = counted;
  const done =
    kind === "any"
      ? change === 0
        ? "brings nobody new"
        : `brings ${count(change)}`
      : change === 0
        ? "removes nobody"
        : `removes ${count(change)}`;
  return (
    <p className="mt-1 flex justify-between gap-2 text-xs/4 text-ink-soft">
      <span>{done}</span>
      <span className={left === 0 ? "font-medium text-amber" : "text-teal"}>
        {left === 0 ? "nobody left" : `${count(left)} ${kind === "any" ? "so far" : "left"}`}
      </span>
    </p>
  );
}
