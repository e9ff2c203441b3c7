import { type FormEvent, useState } from "react";
import { tell } from "../requests";
import { Button } from "../ui/button";
import { FileButton } from "../ui/file-button";
import { Input, Labelled, Problem } from "../ui/form";
import { Progress } from "../ui/progress";
import { sendFile } from "../ui/send-file";

/** Adds a source by its address or a file. What it is it says itself. */
export function AddSource({ primary, onAdded }: { primary: boolean; onAdded(id: string): void }) {
  const [address, setAddress] = useState("");
  const [busy, setBusy] = useState(false);
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const done = (answer: { problem: string | null; result: { id: string } | null }) => {
    setBusy(false);
    setShare(null);
    setProblem(answer.problem);
    if (answer.result === null) return;
    setAddress("");
    onAdded(answer.result.id);
  };
  const add = async (event: FormEvent) => {
    event.preventDefault();
    if (busy) return;
    setBusy(true);
    setProblem(null);
    done(await tell("/sources/change", { intent: "add", address }));
  };
  const take = async (file: File) => {
    setBusy(true);
    setProblem(null);
    setShare(0);
    done(await sendFile<{ id: string }>("/sources/file", file, setShare));
  };
  return (
    <form className="card space-y-3 p-3" onSubmit={add}>
      <Labelled label="Add a source" hint="A feed, a catalogue, a calendar, or records of any shape">
        <Input
          value={address}
          placeholder="https://…"
          required
          onChange={(event) => setAddress(event.target.value)}
        />
      </Labelled>
      {problem && <Problem>{problem}</Problem>}
      {share !== null && (
        <Progress
          share={share < 1 ? share : null}
          label={share < 1 ? "Sending the file" : "Reading the file"}
        />
      )}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind={primary ? "primary" : "plain"} disabled={busy}>
          {busy && share === null ? "Reading it…" : "Add"}
        </Button>
        <FileButton
          label="From a file"
          accept=".csv,.tsv,.txt,.json,.jsonl,.ndjson,.xml,.ics,.rss,.atom"
          disabled={busy}
          onFile={(file) => void take(file)}
        />
      </div>
    </form>
  );
}
