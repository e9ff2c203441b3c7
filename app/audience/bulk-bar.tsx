import { X } from "lucide-react";
import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import type { FieldDef } from "~/core/audience";
import type { Pick } from "~/server/audience/table";
import { tell } from "../requests";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Dialog } from "../ui/dialog";
import { Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { Progress } from "../ui/progress";
import { count, counted } from "../ui/time";
import { useChange } from "./use-change";
import { ValueInput } from "./value-input";

/** What is done to all marked contacts. */
type Doing =
  | { do: "join" | "leave"; list: string }
  | { do: "set"; field: string; value: unknown }
  | { do: "unsubscribe" | "remove" | "restore" };

/** What can be done with marked contacts at once; each can be taken back. */
export function BulkBar({
  marked,
  pick,
  removed,
  lists,
  fields,
  onDone,
  onClear,
}: {
  /** How many. */
  marked: number;
  pick: Pick;
  /** Whether they were removed, and can be brought back. */
  removed: boolean;
  lists: readonly { id: string; name: string }[];
  fields: readonly FieldDef[];
  onDone(): void;
  onClear(): void;
}) {
  const fetcher = useFetcher<{ problem: string | null; result: { id: string } | null }>();
  const notify = useNotify();
  const [running, setRunning] = useState<string | null>(null);
  const [setting, setSetting] = useState(false);
  const change = useChange(running, (ended) => {
    setRunning(null);
    setSetting(false);
    if (ended.state === "done")
      notify({
        text: `${ended.name}: ${counted(ended.counts.changed ?? 0, "contact")} changed.`,
        action: { label: "Undo", run: () => void takeBack(ended.id) },
      });
    else notify({ text: ended.trouble ?? "It was not done.", bad: true });
    onDone();
  });
  const takeBack = async (id: string) => {
    const { problem } = await tell("/audience/changes/:change", {}, { at: { change: id } });
    notify(problem ? { text: problem, bad: true } : { text: "It is as it was before." });
    onDone();
  };
  useEffect(() => {
    if (fetcher.data?.result) setRunning(fetcher.data.result.id);
    else if (fetcher.data?.problem) notify({ text: fetcher.data.problem, bad: true });
  }, [fetcher.data, notify]);
  const busy = fetcher.state !== "idle" || running !== null;
  const run = (doing: Doing) =>
    fetcher.submit(JSON.stringify({ pick, doing }), {
      method: "post",
      action: "/audience/bulk",
      encType: "application/json",
    });
  const named = lists.map(({ id, name }) => ({ value: id, label: name }));
  return (
    <div
      role="toolbar"
      aria-label="What to do with the marked contacts"
      className="flex min-h-10 flex-wrap items-center gap-2 rounded-md border border-mulberry/25 bg-mulberry-wash px-3 py-1"
    >
      <strong className="text-mulberry">{counted(marked, "contact")} marked</strong>
      {busy ? (
        <span className="flex grow items-center gap-2 text-ink-soft" role="status">
          <Progress
            label="Changing contacts"
            share={change ? (change.counts.seen ?? 0) / Math.max(1, marked) : null}
          />
          {count(change?.counts.seen ?? 0)} of {count(marked)}
        </span>
      ) : (
        <>
          <Choose
            label="Add to a list"
            className="w-auto!"
            value=""
            placeholder="Add to…"
            options={named}
            onChange={(list) => run({ do: "join", list })}
          />
          <Choose
            label="Take off a list"
            className="w-auto!"
            value=""
            placeholder="Take off…"
            options={named}
            onChange={(list) => run({ do: "leave", list })}
          />
          <Button onClick={() => setSetting(true)}>Set a field…</Button>
          <form method="post" action="/audience/export/contacts.csv">
            <input type="hidden" name="pick" value={JSON.stringify(pick)} />
            <Button type="submit" aria-label="CSV of the marked">
              CSV
            </Button>
          </form>
          <Button onClick={() => run({ do: "unsubscribe" })}>Unsubscribe</Button>
          {removed ? (
            <Button onClick={() => run({ do: "restore" })}>Bring back</Button>
          ) : (
            <Button kind="danger" onClick={() => run({ do: "remove" })}>
              Remove
            </Button>
          )}
          <IconButton icon={X} label="Mark nobody" className="ml-auto" onClick={onClear} />
        </>
      )}
      {setting && !busy && (
        <SetField
          fields={fields}
          marked={marked}
          problem={fetcher.data?.problem ?? null}
          onSet={(field, value) => run({ do: "set", field, value })}
          onClose={() => setSetting(false)}
        />
      )}
    </div>
  );
}

function SetField({
  fields,
  marked,
  problem,
  onSet,
  onClose,
}: {
  fields: readonly FieldDef[];
  marked: number;
  problem: string | null;
  onSet(field: string, value: unknown): void;
  onClose(): void;
}) {
  const offered = fields.filter(({ key }) => key !== "email");
  const [key, setKey] = useState(offered[0]?.key ?? "");
  const [value, setValue] = useState<unknown>(null);
  const field = offered.find((one) => one.key === key);
  return (
    <Dialog open onClose={onClose} title="Set a field" about={`For ${counted(marked, "marked contact")}.`}>
      <div className="space-y-4">
        <Choose
          label="Field"
          value={key}
          options={offered.map((one) => ({ value: one.key, label: one.label }))}
          onChange={(next) => {
            setKey(next);
            setValue(null);
          }}
        />
        {field && <ValueInput field={field} value={value} onChange={setValue} />}
        {problem && <Problem>{problem}</Problem>}
        <div className="flex justify-end">
          <Button kind="primary" onClick={() => onSet(key, value)}>
            {value === null || value === "" ? "Empty the field" : "Set it"}
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
