import { Redo2, Undo2, X } from "lucide-react";
import { Dialog } from "radix-ui";
import { useEffect, useMemo, useRef, useState } from "react";
import { draftAlts, keptSize, sizeAfter, variantWidth } from "~/core/pictures";
import type { Use } from "~/server/mentions";
import type { PictureDetail } from "~/server/pictures/library";
import { ask, resultOf, tell } from "../../requests";
import { Button, IconButton } from "../../ui/button";
import { Dialog as Window } from "../../ui/dialog";
import { type FocusHolder, focusHolder, giveFocus } from "../../ui/focus";
import { Problem } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { counted, kilobytes } from "../../ui/time";
import type { Picture } from "../upload";
import { SaveOver } from "./save-over";
import { SideBySide } from "./side-by-side";
import { ratioOf, Stage, workingSize } from "./stage";
import { ADDED, ICONS, StepList } from "./step-list";
import { StepPanel, type Writing } from "./step-panel";
import { shownWords, useLegibility, useTrial } from "./use-looks";
import { useOutlines } from "./use-outlines";
import { forgetSteps, useSteps } from "./use-steps";

type Detail = PictureDetail & { uses: Use[]; writing: Writing };

/** What was saved, and what it took the place of. */
export interface SavedPicture extends Picture {
  /** Where it was saved over another: the addresses that designs may show it under. */
  before?: string[];
}

/**
 * A picture is changed by steps that are kept: each can be changed or taken back later, and the original stays. It takes
 * the whole window; closing loses nothing.
 */
export function PictureEditor(props: {
  id: string;
  /** How wide the email shows it, in px; as wide as most emails where it is not known. */
  shown?: number;
  /** A campaign that changes its own design. */
  campaign?: string;
  onClose(): void;
  onSaved(picture: SavedPicture): void;
}) {
  const { id, onClose } = props;
  const [loaded, setLoaded] = useState<{ detail: Detail; href: string } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const before = useRef<FocusHolder | null>(null);
  useEffect(() => {
    let gone = false;
    const load = async () => {
      const [facts, original] = await Promise.all([
        ask("/library/:picture/detail", { at: { picture: id } }),
        fetch(`/library/${id}/original`),
      ]);
      const detail = resultOf(facts);
      if (!original.ok) throw new Error("The original of this picture cannot be read.");
      const href = await dataUrl(await original.blob());
      if (!gone) setLoaded({ detail, href });
    };
    load().catch((error: Error) => {
      if (!gone)
        setProblem(
          error instanceof TypeError
            ? "The server does not answer. Close this and try again."
            : error.message,
        );
    });
    return () => {
      gone = true;
    };
  }, [id]);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={() => {
            before.current = focusHolder();
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            giveFocus(before.current);
          }}
          onEscapeKeyDown={(event) => {
            // Escape in a field or a list ends that.
            if ((event.target as HTMLElement).closest("input, textarea, [role=listbox]"))
              event.preventDefault();
          }}
          onInteractOutside={(event) => event.preventDefault()}
          className="fixed inset-0 z-40 flex flex-col bg-table outline-none max-md:overflow-y-auto"
        >
          {loaded ? (
            <Room {...props} {...loaded} />
          ) : (
            <div className="grid grow place-items-center gap-3 p-6">
              <Dialog.Title className="text-ink-soft">
                {problem ? "This picture" : "Opening the picture…"}
              </Dialog.Title>
              {problem && <Problem>{problem}</Problem>}
              {problem && <Button onClick={onClose}>Close</Button>}
            </div>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function dataUrl(blob: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error("The picture cannot be read."));
    reader.readAsDataURL(blob);
  });
}

function usesWords(uses: readonly Use[]): string {
  if (uses.length === 0) return "not used yet";
  const sent = uses.filter((use) => use.sent).length;
  return `in ${counted(uses.length, "place")}${sent > 0 ? `, ${sent} of them sent: those stay` : ""}`;
}

function Room({
  id,
  detail,
  href,
  shown = 600,
  campaign,
  onClose,
  onSaved,
}: Parameters<typeof PictureEditor>[0] & { detail: Detail; href: string }) {
  const notify = useNotify();
  const state = useSteps(id, detail.path, detail.steps);
  const { steps, selected, done, dirty, dispatch, add, change } = state;
  const [alt, setAlt] = useState(detail.alt);
  const [saving, setSaving] = useState<"over" | "copy" | null>(null);
  const [pen, setPen] = useState({ color: detail.writing.colours[0] ?? "#7D2248", width: 8 / 600 });
  const [ratio, setRatio] = useState<number | null>(null);
  const picture = useMemo(() => ({ href, ...workingSize(detail.original) }), [href, detail.original]);
  const { outlines, problem } = useOutlines(steps);
  const step = steps.find((one) => one.id === selected) ?? null;
  const contrast = useLegibility(picture, steps, step, outlines);
  const trial = useTrial(id, detail.steps, done, variantWidth(shown, 1400) ?? undefined);
  const [comparing, setComparing] = useState(false);
  const found = useRef(dirty);
  useEffect(() => {
    if (!found.current) return;
    found.current = false;
    notify({
      text: "The steps you had not saved are here again.",
      action: { label: "Drop them", run: () => dispatch({ do: "all", steps: detail.steps }) },
    });
  }, [notify, dispatch, detail.steps]);
  const select = (next: string | null) => {
    const one = steps.find((other) => other.id === next);
    if (one?.kind === "crop") {
      const before = steps.slice(0, steps.indexOf(one)).reduce(sizeAfter, picture);
      setRatio(ratioOf(one, before));
    }
    dispatch({ do: "select", id: next });
  };
  /** What shows it besides this window, and would show it anew. */
  const others = detail.uses.filter((use) => !use.sent && use.id !== campaign);
  const [asking, setAsking] = useState(false);
  const save = async (as: "over" | "copy", scheduled: readonly string[] = []) => {
    setAsking(false);
    setSaving(as);
    try {
      const at = { picture: id };
      if (alt.trim() !== detail.alt)
        resultOf(await tell("/library/list", { intent: "file", ids: [id], filing: { alt } }));
      const answer: { picture: Picture; before?: string[]; reached?: Use[] } =
        as === "over"
          ? resultOf(
              await tell(
                "/library/:picture/detail",
                { intent: as, steps: [...done], scheduled: [...scheduled], except: campaign },
                { at },
              ),
            )
          : resultOf(await tell("/library/:picture/detail", { intent: as, steps: [...done] }, { at }));
      forgetSteps(id);
      const reached = answer.reached?.length ?? 0;
      notify({
        text:
          as === "copy"
            ? `“${answer.picture.name}” is a picture of its own.`
            : reached > 0
              ? `Saved. ${counted(reached, "place shows", "places show")} it so from now on.`
              : "Saved.",
      });
      onSaved({ ...answer.picture, alt, before: answer.before });
    } catch (error) {
      notify({ text: (error as Error).message, bad: true });
      setSaving(null);
    }
  };
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      // Fields take back what was typed in them.
      if (comparing || !(event.target instanceof Element) || event.target.closest("input, textarea")) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z")
        dispatch({ do: event.shiftKey ? "redo" : "undo" });
      else if ((event.key === "Delete" || event.key === "Backspace") && selected)
        dispatch({ do: "remove", id: selected });
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [dispatch, selected, comparing]);
  const at = step ? steps.indexOf(step) : -1;
  const kept = keptSize(detail.original, done);
  const wrote = steps.flatMap((one) => (one.kind === "words" ? [one.text.replace(/\s+/g, " ").trim()] : []));
  const drafts = draftAlts(alt.trim() === "" ? detail.name : "", wrote).filter(
    (draft) => !alt.includes(draft),
  );
  return (
    <div className="flex min-h-0 grow flex-col">
      <header className="flex min-h-12 flex-wrap items-center gap-3 border-b bg-paper px-3 py-1.5">
        <IconButton icon={X} label="Close" onClick={onClose} />
        <Dialog.Title className="max-w-80 truncate text-[15px] font-semibold">{detail.name}</Dialog.Title>
        <p className="text-ink-soft">
          {kept.width} × {kept.height} · {kilobytes(detail.bytes)} · {usesWords(detail.uses)}
        </p>
        <div className="ml-auto flex flex-wrap items-center gap-2">
          <span className="text-ink-soft" role="status">
            {done.length === 0 ? "As it came" : `${counted(done.length, "step")}, all can be taken back`}
          </span>
          <IconButton
            icon={Undo2}
            label="Undo"
            keys="Ctrl+Z"
            disabled={state.past.done.length === 0}
            onClick={() => dispatch({ do: "undo" })}
          />
          <IconButton
            icon={Redo2}
            label="Redo"
            keys="Ctrl+Shift+Z"
            disabled={state.past.undone.length === 0}
            onClick={() => dispatch({ do: "redo" })}
          />
          <Button disabled={saving !== null || !dirty} onClick={() => void save("copy")}>
            {saving === "copy" ? "Saving…" : "Save as a copy"}
          </Button>
          <Button
            kind="primary"
            disabled={saving !== null || (!dirty && alt.trim() === detail.alt)}
            onClick={() => (others.length > 0 && dirty ? setAsking(true) : void save("over"))}
          >
            {saving === "over" ? "Saving…" : "Save over it"}
          </Button>
        </div>
      </header>
      {asking && (
        <SaveOver
          uses={others}
          onClose={() => setAsking(false)}
          onCopy={() => void save("copy")}
          onOver={(scheduled) => void save("over", scheduled)}
        />
      )}
      <div className="flex min-h-0 grow max-md:flex-col">
        <aside
          aria-label="Steps"
          className="w-55 shrink-0 overflow-y-auto border-r bg-paper p-3.5 max-md:w-full"
        >
          <StepList steps={steps} selected={selected} onSelect={select} dispatch={dispatch} />
          <h2 className="mt-4 mb-1.5 border-t pt-3 font-semibold">Add a step</h2>
          <div className="grid grid-cols-2 gap-0.5">
            {ADDED.map(([kind, label]) => {
              const Icon = ICONS[kind];
              return (
                <button
                  key={kind}
                  type="button"
                  onClick={() => {
                    setRatio(null);
                    add(kind);
                  }}
                  className="flex h-8 items-center gap-2 rounded-md px-2 text-left hover:bg-black/4"
                >
                  <Icon className="size-4" strokeWidth={1.75} aria-hidden /> {label}
                </button>
              );
            })}
          </div>
        </aside>
        <main className="flex min-w-0 grow flex-col">
          <Stage
            picture={picture}
            steps={steps}
            selected={step}
            outlines={outlines}
            alt={alt}
            ratio={ratio}
            pen={pen}
            onChange={change}
            onRest={() => dispatch({ do: "rest" })}
          />
          <div className="flex shrink-0 flex-wrap justify-center gap-4 px-6 pb-5">
            <section className="card flex w-84 items-center gap-3 p-3" aria-label="As it stands in the email">
              {trial.now ? (
                <img
                  src={trial.now.src}
                  alt=""
                  className="chequered h-14 w-20 shrink-0 rounded-sm object-contain"
                />
              ) : (
                <span className="h-14 w-20 shrink-0 rounded-sm bg-table" />
              )}
              <div className="min-w-0">
                <p className="font-semibold">As it stands in the email</p>
                <p className="text-ink-soft">{shownWords(kept.width, shown)}</p>
                <p role="status">
                  {trial.problem ? (
                    <span className="text-red">{trial.problem}</span>
                  ) : trial.now ? (
                    <>
                      {trial.before && dirty && (
                        <span className="text-ink-soft">{kilobytes(trial.before.bytes)} → </span>
                      )}
                      <span className="font-semibold">
                        {trial.now.type.replace("image/", "").toUpperCase()} {kilobytes(trial.now.bytes)}
                      </span>{" "}
                      {trial.before && dirty && (
                        <button
                          type="button"
                          className="underline underline-offset-2"
                          onClick={() => setComparing(true)}
                        >
                          look at both
                        </button>
                      )}
                    </>
                  ) : (
                    <span className="text-ink-soft">Working it out…</span>
                  )}
                </p>
              </div>
            </section>
            <section className="card w-84 p-3" aria-label="Alternative text">
              <label>
                <span className="mb-1 block font-semibold">Alternative text</span>
                <textarea
                  className="field"
                  rows={2}
                  maxLength={500}
                  placeholder="What it shows, for those who do not see it"
                  value={alt}
                  onChange={(event) => setAlt(event.target.value)}
                />
              </label>
              {drafts.slice(0, 2).map((draft) => (
                <button
                  key={draft}
                  type="button"
                  className="toggle mt-1 mr-1 max-w-full truncate"
                  onClick={() =>
                    setAlt(alt.trim() === "" ? draft : `${alt.trim().replace(/[.]$/, "")}. ${draft}`)
                  }
                >
                  {alt.trim() === "" ? "Take" : "Add"} “{draft}”
                </button>
              ))}
            </section>
          </div>
        </main>
        <aside
          aria-label="The step"
          className="w-72 shrink-0 overflow-y-auto border-l bg-paper p-4 max-md:w-full"
        >
          {problem && <Problem>{problem}</Problem>}
          {step ? (
            <StepPanel
              step={step}
              before={steps.slice(0, at).reduce(sizeAfter, detail.original)}
              steps={steps}
              original={picture}
              writing={detail.writing}
              outline={outlines[step.id]}
              contrast={contrast}
              pen={pen}
              onPen={setPen}
              ratio={ratio}
              onRatio={setRatio}
              onChange={change}
            />
          ) : (
            <p className="text-ink-soft">
              {steps.length === 0
                ? "Add a step on the left. The original stays as it came, and every step can be changed or taken back later."
                : "Choose a step to change it, or add one."}
            </p>
          )}
          {detail.original.frames > 1 && (
            <p className="mt-4 text-xs text-ink-soft">
              It has {detail.original.frames} frames. The first one is shown here; steps are done to all of
              them.
            </p>
          )}
        </aside>
      </div>
      {trial.now && trial.before && (
        <Window open={comparing} onClose={() => setComparing(false)} title="Before and after" size="large">
          <SideBySide before={trial.before} after={trial.now} />
        </Window>
      )}
    </div>
  );
}
