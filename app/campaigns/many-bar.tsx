import { X } from "lucide-react";
import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import type { Doing } from "~/server/campaigns/many";
import { SEASON_OR_ANY } from "../templates/seasons";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Dialog, DialogForm } from "../ui/dialog";
import { Input, Labelled } from "../ui/form";
import { useNotify } from "../ui/notices";
import { counted } from "../ui/time";

type Answer = { problem: string | null; result: { done: string[]; refused: string[] } | null };
type Asking = "label" | "unlabel" | "series" | "season";

const ASKED: Record<Asking, { title: string; field: string; hint: string }> = {
  label: { title: "Give labels", field: "Labels", hint: "Parted by commas." },
  unlabel: { title: "Take labels away", field: "Labels", hint: "Parted by commas." },
  series: { title: "File in a series", field: "Series", hint: "Empty takes them out of their series." },
  season: { title: "For a season", field: "Season", hint: "" },
};

/** What is done to what is marked in a list of campaigns or templates. */
export function ManyBar({
  noun,
  ids,
  archived,
  onClear,
}: {
  noun: "campaign" | "template";
  ids: readonly string[];
  /** Whether what is marked is archived. */
  archived: boolean;
  onClear(): void;
}) {
  const fetcher = useFetcher<Answer>();
  const undo = useFetcher();
  const notify = useNotify();
  const [asking, setAsking] = useState<Asking | null>(null);
  const [last, setLast] = useState<Doing["do"] | null>(null);
  const send = (through: typeof undo, doing: Doing, which: readonly string[]) =>
    through.submit(JSON.stringify({ ids: which, doing }), {
      method: "post",
      action: "/campaigns/many",
      encType: "application/json",
    });
  const run = (doing: Doing) => {
    setAsking(null);
    setLast(doing.do);
    send(fetcher, doing, ids);
  };
  const { data: answer } = fetcher;
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer is spoken of once, when it comes
  useEffect(() => {
    if (!answer) return;
    if (answer.problem) notify({ text: answer.problem, bad: true });
    const { done = [], refused = [] } = answer.result ?? {};
    for (const text of refused.slice(0, 3)) notify({ text, bad: true });
    const back = last && BACK[last];
    if (done.length > 0)
      notify({
        text: `${counted(done.length, noun)} changed.`,
        ...(back && { action: { label: "Undo", run: () => send(undo, { do: back }, done) } }),
      });
    if (back && done.length > 0) onClear();
  }, [answer]);
  return (
    <div
      role="toolbar"
      aria-label={`What to do with the marked ${noun}s`}
      className="sticky top-2 z-20 mb-3 flex min-h-10 flex-wrap items-center gap-2 rounded-md border border-mulberry/25 bg-mulberry-wash px-3 py-1"
    >
      <strong className="text-mulberry">{counted(ids.length, noun)} marked</strong>
      <Button onClick={() => setAsking("label")}>Label…</Button>
      <Button onClick={() => setAsking("unlabel")}>Take labels away…</Button>
      {noun === "campaign" && <Button onClick={() => setAsking("series")}>Series…</Button>}
      <Button onClick={() => setAsking("season")}>Season…</Button>
      <Button onClick={() => run({ do: archived ? "unarchive" : "archive" })}>
        {archived ? "Bring back" : "Archive"}
      </Button>
      <Button kind="danger" onClick={() => run({ do: "delete" })}>
        Delete
      </Button>
      <IconButton icon={X} label="Mark none" className="ml-auto" onClick={onClear} />
      {asking && <Ask asking={asking} onRun={run} onClose={() => setAsking(null)} />}
    </div>
  );
}

/** What takes back what was done at a press. */
const BACK: Partial<Record<Doing["do"], "archive" | "unarchive" | "restore">> = {
  archive: "unarchive",
  unarchive: "archive",
  delete: "restore",
};

function Ask({ asking, onRun, onClose }: { asking: Asking; onRun(doing: Doing): void; onClose(): void }) {
  const { title, field, hint } = ASKED[asking];
  const [value, setValue] = useState(asking === "season" ? "none" : "");
  const run = () => {
    if (asking === "series") onRun({ do: asking, series: value });
    else if (asking === "season")
      onRun({ do: asking, season: value === "none" ? "" : value } as Extract<Doing, { do: "season" }>);
    else if (value.trim() !== "") onRun({ do: asking, labels: value });
  };
  return (
    <Dialog open onClose={onClose} title={title}>
      <DialogForm submit={title} onSubmit={() => run()}>
        <Labelled label={field} hint={hint}>
          {asking === "season" ? (
            <Choose value={value} onChange={setValue} options={SEASON_OR_ANY} />
          ) : (
            <Input value={value} maxLength={400} onChange={(event) => setValue(event.target.value)} />
          )}
        </Labelled>
      </DialogForm>
    </Dialog>
  );
}
