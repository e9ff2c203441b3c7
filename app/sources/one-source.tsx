import { CircleCheck, RefreshCw, TriangleAlert } from "lucide-react";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { SOURCE_KINDS } from "~/core/items";
import { FORMATS, factsOfSource } from "~/core/sources";
import type { Source } from "~/server/sources/sources";
import { tell } from "../requests";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Input, Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { RemoveButton } from "../ui/remove-button";
import { timeWords } from "../ui/time";
import { MappingDialog } from "./mapping-dialog";
import { SourceItems } from "./source-items";

/** After how many hours of its last good copy a sending stops, and what that is called. */
const STOPS: readonly [number | null, string][] = [
  [null, "go with the last good copy"],
  [0, "stop"],
  [6, "stop after 6 hours"],
  [24, "stop after a day"],
  [168, "stop after a week"],
];

const RHYTHMS: readonly [minutes: number | null, words: string][] = [
  [10, "every ten minutes"],
  [60, "every hour"],
  [360, "every six hours"],
  [1440, "once a day"],
  [10_080, "once a week"],
  [null, "only when asked"],
];
const NEVER = "never";
/** So many oddities are in view before the others are asked for. */
const SEEN = 3;

/** A source: how it is, what may be said of it, and what it holds. */
export function OneSource({ source, now, onChange }: { source: Source; now: number; onChange(): void }) {
  const notify = useNotify();
  const [busy, setBusy] = useState(false);
  const [address, setAddress] = useState(source.address);
  const [mapping, setMapping] = useState(false);
  const [all, setAll] = useState(false);
  const refresh = async () => {
    setBusy(true);
    const { problem } = await tell("/sources/change", { intent: "refresh", id: source.id });
    setBusy(false);
    if (problem) notify({ text: problem, bad: true });
    onChange();
  };
  const move = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    const { problem } = await tell("/sources/change", { intent: "move", id: source.id, address });
    setBusy(false);
    if (problem) notify({ text: problem, bad: true });
    onChange();
  };
  const set = async (said: { name?: string; every?: number | null; stopsAfter?: number | null }) => {
    const { name, every, stopsAfter } = { ...source, ...said };
    const { problem } = await tell("/sources/change", {
      intent: "set",
      id: source.id,
      name,
      every,
      stopsAfter,
    });
    if (problem) notify({ text: problem, bad: true });
    onChange();
  };
  const publish = async () => {
    const { problem } = await tell("/sources/change", { intent: "publish", id: source.id });
    notify(
      problem
        ? { text: problem, bad: true }
        : { text: "The publisher has a new article. Refresh to bring it in." },
    );
  };
  const problems = all ? source.problems : source.problems.slice(0, SEEN);
  return (
    <section className="card" aria-label={source.name}>
      <header className="space-y-3 border-b p-4">
        <div className="flex flex-wrap items-center gap-2">
          <Title name={source.name} onName={(name) => void set({ name })} />
          <p className="grow text-ink-soft">
            {SOURCE_KINDS[source.kind].label}
            {source.mapping && `, ${FORMATS[source.format]}`}
          </p>
          {source.address.startsWith("standin://publisher") && (
            <Button onClick={() => void publish()}>Publish an article</Button>
          )}
          {source.mapping && <Button onClick={() => setMapping(true)}>Columns</Button>}
          {source.comes !== "door" && (
            <Button busy={busy} onClick={() => void refresh()}>
              <RefreshCw className="size-4" aria-hidden /> {busy ? "Reading…" : "Refresh"}
            </Button>
          )}
          <RemoveButton
            kind="source"
            id={source.id}
            name={source.name}
            consequence="Live blocks that take from it show nothing, and stop a sending, until they get another source."
            onChange={onChange}
          />
        </div>
        {source.comes === "door" ? (
          <p className="text-ink-soft">
            Another system tells its items through the{" "}
            <Link to="/settings/door" className="underline underline-offset-2 hover:text-mulberry">
              door
            </Link>
            .
          </p>
        ) : source.comes === "address" ? (
          <form className="flex flex-wrap gap-2" onSubmit={move}>
            <Input
              aria-label="Address of the source"
              value={address}
              onChange={(event) => setAddress(event.target.value)}
              className="w-auto! min-w-40 grow font-mono text-xs"
            />
            <Button type="submit" disabled={address.trim() === source.address || busy}>
              Change address
            </Button>
          </form>
        ) : (
          <p className="text-ink-soft">
            From the file “{source.fileName}”. Bring in a newer one as a source of its own.
          </p>
        )}
        {source.failure && (
          <Problem>
            {source.failure}{" "}
            {source.refreshedAt && `The copy of ${timeWords(source.refreshedAt, now)} stays in use.`}
          </Problem>
        )}
        <div className="flex flex-wrap items-center gap-2">
          {!source.failure && source.refreshedAt && (
            <p className="flex items-center gap-1.5 text-green">
              <CircleCheck className="size-4 shrink-0" aria-hidden /> Read{" "}
              {timeWords(source.refreshedAt, now)}
            </p>
          )}
          {source.comes === "address" && (
            <>
              <span className="text-ink-soft">{source.failure ? "Tried again" : "and again"}</span>
              <Choose
                label="How often it is read again"
                className="w-44!"
                value={source.every === null ? NEVER : String(source.every)}
                options={RHYTHMS.map(([minutes, label]) => ({
                  value: minutes === null ? NEVER : String(minutes),
                  label,
                }))}
                onChange={(value) => void set({ every: value === NEVER ? null : Number(value) })}
              />
              <span className="flex flex-wrap items-center gap-2">
                <span className="text-ink-soft">When it cannot be read, sendings</span>
                <Choose
                  label="What sendings do when it cannot be read"
                  className="w-56!"
                  value={source.stopsAfter === null ? NEVER : String(source.stopsAfter)}
                  options={STOPS.map(([hours, label]) => ({
                    value: hours === null ? NEVER : String(hours),
                    label,
                  }))}
                  onChange={(value) => void set({ stopsAfter: value === NEVER ? null : Number(value) })}
                />
              </span>
            </>
          )}
        </div>
        {problems.map((problem) => (
          <p key={problem} className="flex items-start gap-1.5 text-amber">
            <TriangleAlert className="mt-0.5 size-4 shrink-0" aria-hidden />
            <span className="min-w-0 break-words">{problem}</span>
          </p>
        ))}
        {!all && source.problems.length > SEEN && (
          <Button kind="quiet" onClick={() => setAll(true)}>
            {source.problems.length - SEEN} more like these
          </Button>
        )}
      </header>
      <SourceItems source={source} facts={factsOfSource(source)} now={now} />
      {mapping && source.mapping && (
        <MappingDialog
          source={source}
          mapping={source.mapping}
          onClose={(changed) => {
            setMapping(false);
            if (!changed) return;
            notify({ text: `“${source.name}” was read anew.` });
            onChange();
          }}
        />
      )}
    </section>
  );
}

/** A name that is edited where it stands. */
function Title({ name, onName }: { name: string; onName(name: string): void }) {
  const [written, setWritten] = useState<string | null>(null);
  const end = (kept: boolean) => {
    if (kept && written !== null && written.trim() !== "" && written.trim() !== name) onName(written.trim());
    setWritten(null);
  };
  if (written === null)
    return (
      <h2 className="text-[15px] font-semibold">
        <button
          type="button"
          title="Rename"
          className="-mx-1 rounded px-1 hover:bg-black/5"
          onClick={() => setWritten(name)}
        >
          {name}
        </button>
      </h2>
    );
  return (
    <Input
      aria-label="Name of the source"
      className="w-56! font-semibold"
      value={written}
      maxLength={200}
      autoFocus
      onChange={(event) => setWritten(event.target.value)}
      onBlur={() => end(true)}
      onKeyDown={(event) => {
        if (event.key === "Enter") end(true);
        if (event.key === "Escape") end(false);
      }}
    />
  );
}
