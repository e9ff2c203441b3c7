import { Eye, Redo2, Undo2 } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { createPortal } from "react-dom";
import { Link } from "react-router";
import { buttonLook, IconButton } from "../ui/button";
import { useNotify } from "../ui/notices";
import { timeWords } from "../ui/time";
import { Actions, ActionsContext, useActions } from "./actions";
import { dropStranded, startAutosave, strandedDraft } from "./autosave";
import { Canvas } from "./canvas/canvas";
import { CanvasContext, CanvasHandle, useCanvas } from "./canvas/context";
import { ConflictDialog } from "./conflict";
import { Dialogs } from "./dialogs";
import { DragArea } from "./drag";
import { Envelope } from "./envelope";
import { useComposerFindables } from "./findable";
import { followEditions } from "./follow";
import { useComposerKeys } from "./keys";
import { MoreMenu } from "./more-menu";
import { Panel } from "./panel/panel";
import { ReaderBar } from "./reader-bar";
import { Shelf } from "./shelf";
import { ComposerContext, createComposer, useComposer, useComposerStore } from "./store";
import type { EditorHost } from "./text/extensions";
import { pressSlashKey, SlashMenu } from "./text/slash-menu";
import { TagDialog, useAskTag } from "./text/tag-dialog";
import { tagWords } from "./text/values";

type Start = Parameters<typeof createComposer>[0];

/** The composer of one campaign, full screen under the campaign's bar. */
export function Composer({ start, toolsId }: { start: Start; toolsId: string }) {
  const notify = useNotify();
  const [spoken, announce] = useState("");
  const [store] = useState(() => createComposer(start, (text) => notify({ text, bad: true })));
  const [canvas] = useState(() => new CanvasHandle());
  const [actions] = useState(() => new Actions(store, canvas, announce));
  const [given, setGiven] = useState<File | string | null>(null);
  const bringIn = useCallback(
    (what: File | string) => {
      setGiven(what);
      store.getState().set({ dialog: "intake" });
    },
    [store],
  );
  const [saver, setSaver] = useState<ReturnType<typeof startAutosave> | null>(null);

  useEffect(() => {
    const stranded = strandedDraft(start.facts.campaign);
    const autosave = startAutosave(store);
    setSaver(autosave);
    if (
      stranded &&
      stranded.revision === store.getState().revision &&
      JSON.stringify(stranded.email) !== JSON.stringify(store.getState().email)
    ) {
      store.setState({ email: stranded.email });
      notify({ text: "Changes that had not reached the server were brought back." });
    } else if (stranded && stranded.revision !== store.getState().revision) {
      const { email, revision } = store.getState();
      store.setState({
        email: stranded.email,
        saving: {
          state: "conflict",
          at: start.savedAt,
          other: email,
          otherRevision: revision,
          base: stranded.base,
        },
      });
    } else dropStranded(start.facts.campaign);
    const stopFollowing = followEditions(store);
    return () => {
      stopFollowing();
      autosave.stop();
    };
  }, [store, start, notify]);

  return (
    <ComposerContext.Provider value={store}>
      <CanvasContext.Provider value={canvas}>
        <ActionsContext.Provider value={actions}>
          <TagDialog>
            <DragArea>
              <Screen saveNow={() => void saver?.now()} bringIn={bringIn} />
            </DragArea>
            <Dialogs given={given} onGiven={() => setGiven(null)} />
          </TagDialog>
          <Tools toolsId={toolsId} />
          <ConflictDialog />
          <p className="sr-only" aria-live="polite">
            {spoken}
          </p>
        </ActionsContext.Provider>
      </CanvasContext.Provider>
    </ComposerContext.Provider>
  );
}

function Screen({ saveNow, bringIn }: { saveNow(): void; bringIn(what: File | string): void }) {
  const store = useComposerStore();
  const canvas = useCanvas();
  const actions = useActions();
  const askTag = useAskTag();
  const folded = useComposer((state) => state.folded);
  const scroller = useRef<HTMLDivElement>(null);
  useComposerKeys(saveNow, bringIn);
  useComposerFindables();

  useEffect(() => {
    canvas.scroller = scroller.current;
  }, [canvas]);

  const host = useMemo<EditorHost>(
    () => ({
      value(tag) {
        const { reader, email, facts } = store.getState();
        return tagWords(tag, reader, email.language, facts.brand);
      },
      askTag(tag) {
        const { editor } = store.getState();
        if (editor) askTag(editor, tag);
      },
      undo: () => store.getState().undo(),
      redo: () => store.getState().redo(),
      step: (direction) => actions.stepWords(direction),
      menu: {
        slash: (slash) => store.getState().set({ slash, slashAt: 0 }),
        slashKey: (key) => pressSlashKey(store, actions, key),
      },
      leave() {
        store.getState().edit(null);
        canvas.surface?.focus({ preventScroll: true });
      },
    }),
    [store, askTag, canvas, actions],
  );

  return (
    <main className="flex h-full flex-col">
      <h1 className="sr-only">Compose</h1>
      <div className="flex min-h-0 grow">
        {!folded.shelf && <Shelf />}
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the table under the email; files fall on it, and a press beside the email lets go of the selection */}
        <div
          ref={scroller}
          className="relative min-w-0 grow overflow-auto bg-table px-6 pt-3.5 pb-24"
          onPointerDown={(event) => {
            if (event.target === event.currentTarget) store.getState().select(null);
          }}
          onDragOver={(event) => {
            if (event.dataTransfer.types.includes("Files")) event.preventDefault();
          }}
          onDrop={(event) => {
            const [file] = event.dataTransfer.files;
            if (!file) return;
            event.preventDefault();
            bringIn(file);
          }}
        >
          <Envelope />
          <Canvas host={host} />
          <SlashMenu />
        </div>
        {!folded.panel && <Panel />}
      </div>
      <ReaderBar />
    </main>
  );
}

/** Saved state, undo, redo, preview and proof, in the campaign's bar. */
function Tools({ toolsId }: { toolsId: string }) {
  const [place, setPlace] = useState<HTMLElement | null>(null);
  const history = useComposer((state) => state.history);
  const saving = useComposer((state) => state.saving);
  const undo = useComposer((state) => state.undo);
  const redo = useComposer((state) => state.redo);
  const campaign = useComposer((state) => state.facts.campaign);
  const reader = useComposer((state) => state.reader);
  useEffect(() => setPlace(document.getElementById(toolsId)), [toolsId]);
  if (!place) return null;
  const words = {
    saved: `Saved ${timeWords(saving.at, Date.now())}`,
    waiting: "Saving…",
    saving: "Saving…",
    away: "Server away; kept here",
    conflict: "Changed elsewhere",
  }[saving.state];
  return createPortal(
    <>
      <span
        role="status"
        data-testid="saving"
        className={
          saving.state === "away" || saving.state === "conflict" ? "font-medium text-amber" : "text-ink-soft"
        }
      >
        {words}
      </span>
      <IconButton
        label={`Undo ${history.done.at(-1)?.label.toLowerCase() ?? ""}`.trim()}
        keys="Ctrl + Z"
        disabled={history.done.length === 0}
        onClick={undo}
      >
        <Undo2 className="size-4" />
      </IconButton>
      <IconButton
        label={`Redo ${history.undone.at(-1)?.label.toLowerCase() ?? ""}`.trim()}
        keys="Ctrl + Shift + Z"
        disabled={history.undone.length === 0}
        onClick={redo}
      >
        <Redo2 className="size-4" />
      </IconButton>
      <MoreMenu />
      <Link className={buttonLook()} to={`/campaigns/${campaign}/preview?reader=${reader.id}`}>
        <Eye className="size-4" aria-hidden /> Preview
      </Link>
      <Link className={buttonLook("primary")} to={`/campaigns/${campaign}/proof?reader=${reader.id}`}>
        Send a proof
      </Link>
    </>,
    place,
  );
}
