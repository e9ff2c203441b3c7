import { Archive, ArchiveRestore, Download, Pencil } from "lucide-react";
import { useId, useState } from "react";
import { Link } from "react-router";
import { draftAlts, stepWords } from "~/core/pictures";
import type { Use } from "~/server/mentions";
import type { Filing, PictureDetail, PictureFiling } from "~/server/pictures/library";
import { ask, tell } from "../requests";
import { Button, buttonLook } from "../ui/button";
import { Choose } from "../ui/choose";
import { Input, Labelled, Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { RemoveButton } from "../ui/remove-button";
import { counted, kilobytes, timeWords } from "../ui/time";
import { useAnswer } from "../ui/use-answer";
import { pathOfUse } from "../ui/uses";
import { Written } from "./written";

type Detail = PictureDetail & { uses: Use[] };

const NEW_FOLDER = "\u0000new";

/** Which folder; a new one by its name. */
export function FolderChoice({
  label,
  value,
  filing,
  onChange,
}: {
  label?: string;
  value: string | null;
  filing: Filing | null;
  onChange(folder: string): void;
}) {
  const [making, setMaking] = useState(false);
  if (making)
    return (
      <Input
        aria-label={label ?? "Name of the new folder"}
        placeholder="Name of the new folder"
        autoFocus
        maxLength={80}
        onBlur={(event) => {
          setMaking(false);
          if (event.target.value.trim() !== "") onChange(event.target.value.trim());
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") setMaking(false);
        }}
      />
    );
  const names = new Set([...(filing?.folders.map(({ name }) => name) ?? []), ...(value ? [value] : [])]);
  return (
    <Choose
      label={label}
      value={value === null ? "" : value === "" ? "none" : `in ${value}`}
      placeholder="Move to…"
      options={[
        { value: "none", label: "No folder" },
        ...[...names].sort().map((name) => ({ value: `in ${name}`, label: name })),
        { value: NEW_FOLDER, label: "New folder…" },
      ]}
      onChange={(next) => {
        if (next === NEW_FOLDER) setMaking(true);
        else onChange(next === "none" ? "" : next.slice(3));
      }}
    />
  );
}

/** One picture: what it is, where it is used, and what can be done with it. */
export function Inspector({
  id,
  now,
  filing,
  onEdit,
  onChanged,
  onRemoved,
}: {
  id: string;
  now: number;
  filing: Filing | null;
  onEdit(): void;
  onChanged(): void;
  onRemoved(removed: boolean): void;
}) {
  const [turn, setTurn] = useState(0);
  const notify = useNotify();
  const { last: detail, problem } = useAnswer(`${id} ${turn}`, (signal) =>
    ask("/library/:picture/detail", { at: { picture: id }, signal }),
  );
  const again = () => {
    setTurn((count) => count + 1);
    onChanged();
  };
  const file = async (filing: PictureFiling) => {
    const { problem: why } = await tell("/library/list", { intent: "file", ids: [id], filing });
    if (why) notify({ text: why, bad: true });
    else again();
  };
  const putAway = usePutAway([id], onChanged);
  if (problem) return <Problem>{problem}</Problem>;
  if (detail?.id !== id) return <p className="text-ink-soft">Looking it up…</p>;
  const drafts = detail.alt === "" ? draftAlts(detail.name, []) : [];
  return (
    <div className="space-y-4">
      <img
        src={detail.path}
        alt={detail.alt}
        className="chequered max-h-56 w-full rounded-md border object-scale-down"
      />
      <div className="flex gap-2">
        <Button className="grow" onClick={onEdit}>
          <Pencil className="size-4" aria-hidden /> Edit
        </Button>
        <a
          href={`/library/${id}/original?file`}
          download={detail.name}
          aria-label="Download the original"
          title="Download the original"
          className={buttonLook()}
        >
          <Download className="size-4" aria-hidden />
        </a>
        <Button
          aria-label={detail.archived ? "Bring back from the archive" : "Archive"}
          title={detail.archived ? "Bring back from the archive" : "Archive"}
          onClick={() => void putAway(!detail.archived).then((done) => done && onRemoved(true))}
        >
          {detail.archived ? (
            <ArchiveRestore className="size-4" aria-hidden />
          ) : (
            <Archive className="size-4" aria-hidden />
          )}
        </Button>
        <RemoveButton
          kind="picture"
          id={id}
          name={detail.name}
          consequence="It stays where it is used; it is only no longer offered here."
          onChange={onRemoved}
        />
      </div>
      <Labelled label="Name">
        <Written value={detail.name} onWritten={(name) => name.trim() && file({ name })} />
      </Labelled>
      <Labelled label="Alternative text" hint="Goes with it wherever it is placed from now on.">
        <Written rows={2} value={detail.alt} placeholder="What it shows" onWritten={(alt) => file({ alt })} />
        {drafts.map((draft) => (
          <button
            key={draft}
            type="button"
            className="toggle mt-1.5 text-left"
            onClick={() => file({ alt: draft })}
          >
            Take “{draft}”
          </button>
        ))}
      </Labelled>
      <Labelled label="Folder">
        <FolderChoice value={detail.folder} filing={filing} onChange={(folder) => file({ folder })} />
      </Labelled>
      <Labelled label="Labels" hint="Parted by commas.">
        <Written value={detail.labels.join(", ")} onWritten={(labels) => file({ labels })} />
      </Labelled>
      <Facts detail={detail} />
      <UsedIn uses={detail.uses} />
      <Versions detail={detail} now={now} onReturned={again} />
    </div>
  );
}

/** Puts pictures away, or brings them back, and offers to undo it. Answers whether it was done. */
export function usePutAway(ids: readonly string[], onChanged: () => void) {
  const notify = useNotify();
  const putAway = async (archived: boolean): Promise<boolean> => {
    const { problem } = await tell("/library/list", { intent: "file", ids: [...ids], filing: { archived } });
    if (problem) {
      notify({ text: problem, bad: true });
      return false;
    }
    notify({
      text: `${counted(ids.length, "picture")} ${archived ? `put in the archive. What shows ${ids.length === 1 ? "it" : "them"} stays as it is.` : "back among the others."}`,
      action: { label: "Undo", run: () => void putAway(!archived) },
    });
    onChanged();
    return true;
  };
  return putAway;
}

function Facts({ detail }: { detail: Detail }) {
  const { original, frames } = { ...detail, frames: detail.original.frames };
  const kind = (type: string) => type.replace("image/", "").toUpperCase();
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 [&_dt]:text-ink-soft">
      <dt>In emails</dt>
      <dd>
        {kind(detail.type)}, {detail.width} × {detail.height} px, {kilobytes(detail.bytes)}
        {frames > 1 && `, ${frames} frames`}
      </dd>
      <dt>Original</dt>
      <dd>
        {kind(original.kind)}, {original.width} × {original.height} px, {kilobytes(original.bytes)}
      </dd>
    </dl>
  );
}

function UsedIn({ uses }: { uses: readonly Use[] }) {
  const id = useId();
  return (
    <section aria-labelledby={id}>
      <h2 id={id} className="mb-1 font-semibold">
        {uses.length === 0 ? "Not used yet" : `Used in ${counted(uses.length, "place")}`}
      </h2>
      <ul className="space-y-0.5">
        {uses.slice(0, 40).map((use) => {
          const aside = use.sent ? "sent" : use.kind === "campaign" ? "" : use.kind;
          const to = pathOfUse(use);
          return (
            <li key={`${use.kind} ${use.id}`} className="flex gap-2">
              {to ? (
                <Link to={to} className="min-w-0 truncate underline underline-offset-2">
                  {use.name}
                </Link>
              ) : (
                <span className="min-w-0 truncate">{use.name}</span>
              )}
              {aside && <span className="shrink-0 text-ink-soft">{aside}</span>}
            </li>
          );
        })}
        {uses.length > 40 && <li className="text-ink-soft">and {uses.length - 40} more</li>}
      </ul>
    </section>
  );
}

function Versions({ detail, now, onReturned }: { detail: Detail; now: number; onReturned(): void }) {
  const notify = useNotify();
  const id = useId();
  if (detail.versions.length < 2) return null;
  const back = async (path: string) => {
    const version = detail.versions.find((one) => one.path === path);
    if (!version) return;
    const { problem } = await tell(
      "/library/:picture/detail",
      { intent: "over", steps: version.steps },
      { at: { picture: detail.id } },
    );
    notify(
      problem
        ? { text: problem, bad: true }
        : { text: "It is as it was then, wherever it is used and was not sent." },
    );
    if (!problem) onReturned();
  };
  return (
    <section aria-labelledby={id}>
      <h2 id={id} className="mb-1 font-semibold">
        How it was before
      </h2>
      <ul className="space-y-1.5">
        {detail.versions
          .filter(({ path }) => path !== detail.path)
          .map((version) => (
            <li key={version.path} className="flex items-center gap-2">
              <img
                src={version.path}
                alt=""
                loading="lazy"
                className="chequered size-9 shrink-0 rounded-sm object-contain"
              />
              <span className="min-w-0 grow truncate text-ink-soft">
                {version.steps.length === 0 ? "As it came" : version.steps.map(stepWords).join(", ")},{" "}
                {timeWords(version.at, now)}
              </span>
              <Button kind="quiet" onClick={() => void back(version.path)}>
                Return to it
              </Button>
            </li>
          ))}
      </ul>
    </section>
  );
}
