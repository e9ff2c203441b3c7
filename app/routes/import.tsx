import { ArrowLeft, FileUp } from "lucide-react";
import { type DragEvent, useState } from "react";
import { Link, useNavigate, useRevalidator } from "react-router";
import { type Change, changes } from "~/server/audience/changing";
import { tell } from "../requests";
import { Button } from "../ui/button";
import { FileButton } from "../ui/file-button";
import { Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { Page } from "../ui/page";
import { Progress } from "../ui/progress";
import { sendFile } from "../ui/send-file";
import { count, timeWords } from "../ui/time";
import type { Route } from "./+types/import";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  return { imports: await changes(septima, "import"), now: septima.now() };
}

export default function Import({ loaderData: { imports, now } }: Route.ComponentProps) {
  const navigate = useNavigate();
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const take = async (file: File) => {
    setProblem(null);
    setShare(0);
    const { problem, result } = await sendFile<{ id: string }>("/audience/import/take", file, setShare);
    setShare(null);
    if (problem !== null) setProblem(problem);
    else navigate(`/audience/import/${result.id}`);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const [file] = event.dataTransfer.files;
    if (file) void take(file);
  };
  return (
    <Page
      title="Import contacts"
      actions={
        <Link to="/audience" className="inline-flex items-center gap-1.5 text-ink-soft hover:text-ink">
          <ArrowLeft className="size-4" aria-hidden /> Audience
        </Link>
      }
    >
      <section
        aria-label="The file"
        className={`card flex flex-col items-center gap-3 border-dashed! px-6 py-14 text-center ${over ? "border-mulberry! bg-mulberry-wash" : ""}`}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        {share === null ? (
          <>
            <FileUp className="size-8 text-ink-soft" strokeWidth={1.5} aria-hidden />
            <p className="text-[15px] font-semibold">Drop a file of contacts here</p>
            <p className="max-w-lg text-ink-soft">
              CSV from a spreadsheet or another program, with commas, semicolons or tabs, or vCards. You see
              what it becomes before anything is brought in, and can take it back as a whole.
            </p>
            <FileButton
              label="Choose a file"
              accept=".csv,.tsv,.txt,.vcf,text/csv,text/vcard"
              kind="primary"
              onFile={take}
            />
          </>
        ) : (
          <div className="w-80 max-w-full space-y-2" role="status">
            <p className="font-medium">{share < 1 ? "Sending the file" : "Looking through it"}</p>
            <Progress label="How far the file is" share={share < 1 ? share : null} />
          </div>
        )}
      </section>
      {problem && (
        <div className="mt-4">
          <Problem>{problem}</Problem>
        </div>
      )}
      {imports.length > 0 && (
        <section className="mt-6" aria-label="Earlier imports">
          <h2 className="mb-2 text-[15px] font-semibold">Earlier imports</h2>
          <ul className="card divide-y">
            {imports.map((one) => (
              <Earlier key={one.id} change={one} now={now} />
            ))}
          </ul>
        </section>
      )}
    </Page>
  );
}

const STATE: Record<Change["state"], string> = {
  running: "under way",
  done: "",
  stopped: "cancelled",
  undoing: "being taken back",
  undone: "taken back",
  failed: "not done",
};

function Earlier({
  change: { id, name, state, counts, startedAt, trouble },
  now,
}: {
  change: Change;
  now: number;
}) {
  const { revalidate } = useRevalidator();
  const notify = useNotify();
  const [busy, setBusy] = useState(false);
  const undo = async () => {
    setBusy(true);
    const { problem } = await tell("/audience/changes/:change", {}, { at: { change: id } });
    notify(problem ? { text: problem, bad: true } : { text: `“${name}” was taken back.` });
    setBusy(false);
    void revalidate();
  };
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2.5">
      <Link
        to={`/audience/import/${id}`}
        className="min-w-0 grow basis-48 truncate font-medium hover:text-mulberry hover:underline"
      >
        {name}
      </Link>
      <span className="text-ink-soft">
        {state === "undone" || state === "failed"
          ? (trouble ?? STATE[state])
          : `${count(counts.made ?? 0)} new, ${count(counts.changed ?? 0)} changed, ${count(counts.rejected ?? 0)} not taken`}
        {STATE[state] !== "" && state !== "undone" && state !== "failed" && ` · ${STATE[state]}`}
      </span>
      <span className="w-32 text-right text-ink-soft">{timeWords(startedAt, now)}</span>
      <span className="w-24 text-right">
        {state === "done" && (
          <Button disabled={busy} onClick={() => void undo()}>
            {busy ? "Taking back…" : "Take back"}
          </Button>
        )}
      </span>
    </li>
  );
}
