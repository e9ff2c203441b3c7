import { Eye, Redo2, Undo2 } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { createPortal } from "react-dom";
import { Link } from "react-router";
import { picturesAmong } from "../../pictures/upload";
import { recheck } from "../../preflight/recheck";
import { TalksAround } from "../../review/talks-around";
import { CountedIn } from "../../rules/use-reader-count";
import { buttonLook, IconButton } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { Canvas } from "../canvas/canvas";
import { CanvasContext, CanvasHandle, useCanvas } from "../canvas/context";
import { DragArea } from "../canvas/drag";
import { PictureDialog, placePictures, UploadProgress } from "../controls/pictures";
import { Dialogs } from "../dialogs/dialogs";
import { Panel } from "../panel/panel";
import { useAskedTheme } from "../panel/themes";
import { Leaving } from "../saving/leaving";
import { LockBar } from "../saving/lock-bar";
import { SavingWords } from "../saving/saving-words";
import { useKeptHistory } from "../saving/undo-keep";
import { useFreshBar } from "../saving/use-fresh-bar";
import { useSaving } from "../saving/use-saving";
import { Actions, ActionsContext, useActions } from "../state/actions";
import { ComposerContext, createComposer, useComposer, useComposerStore } from "../state/store";
import { OverWords } from "../words/over-words";
import { Writing, WritingContext } from "../words/writing";
import { useComposerFindables } from "./findable";
import { useFocusGuard } from "./focus-guard";
import { followEditions } from "./follow";
import { followLinks } from "./follow-links";
import { followPicks } from "./follow-picks";
import { InboxLine } from "./inbox-line";
import { useComposerKeys } from "./keys";
import { MoreMenu } from "./more-menu";
import { useAskedSelection, useReaderAddress } from "./reader-address";
import { ReaderBar } from "./reader-bar";
import { Shelf } from "./shelf";
import { PaneChoice, Side, useRoom } from "./sides";
import { TextLetter } from "./text-letter";

type Start = Parameters<typeof createComposer>[0];

/** The composer of one campaign, full screen under the campaign's bar. */
export function Composer({ start, toolsId }: { start: Start; toolsId: string }) {
  const notify = useNotify();
  const [spoken, announce] = useState("");
  const complain = useCallback((text: string) => notify({ text, bad: true }), [notify]);
  const [store] = useState(() => createComposer(start, complain));
  useAskedTheme(store);
  const [canvas] = useState(() => new CanvasHandle());
  const [actions] = useState(() => new Actions(store, canvas, announce, complain));
  const [writing] = useState(() => new Writing(store, canvas, announce));
  const [given, setGiven] = useState<File | string | null>(null);
  const bringIn = useCallback(
    (what: File | string) => {
      setGiven(what);
      store.getState().set({ dialog: "intake" });
    },
    [store],
  );
  const say = useCallback((text: string) => notify({ text }), [notify]);
  const autosave = useSaving(store, say);
  const saver = useRef(autosave);
  saver.current = autosave;
  const saveNow = useCallback(() => void saver.current?.flush(), []);
  useEffect(() => followEditions(store), [store]);
  useEffect(() => followPicks(store), [store]);
  useEffect(() => followLinks(store), [store]);
  useFreshBar(store);

  return (
    <ComposerContext.Provider value={store}>
      <CanvasContext.Provider value={canvas}>
        <ActionsContext.Provider value={actions}>
          <WritingContext.Provider value={writing}>
            <CountedIn.Provider value={start.facts.campaign}>
              {start.email.only ? (
                <TextLetter saveNow={saveNow} />
              ) : (
                <TalksAround campaign={start.facts.campaign}>
                  <DragArea>
                    <Screen saveNow={saveNow} bringIn={bringIn} complain={complain} />
                  </DragArea>
                </TalksAround>
              )}
              <Dialogs given={given} onGiven={() => setGiven(null)} />
              <OverWords />
              <Tools toolsId={toolsId} />
              <Leaving autosave={autosave} />
              <p className="sr-only" aria-live="polite">
                {spoken}
              </p>
            </CountedIn.Provider>
          </WritingContext.Provider>
        </ActionsContext.Provider>
      </CanvasContext.Provider>
    </ComposerContext.Provider>
  );
}

function Screen({
  saveNow,
  bringIn,
  complain,
}: {
  saveNow(): void;
  bringIn(what: File | string): void;
  complain(text: string): void;
}) {
  const store = useComposerStore();
  const canvas = useCanvas();
  const actions = useActions();
  const folded = useComposer((state) => state.folded);
  const pane = useComposer((state) => state.pane);
  const width = useComposer((state) => state.width);
  const both = useComposer((state) => state.both);
  const scroller = useRef<HTMLDivElement>(null);
  const placeOn = useCallback(
    (files: readonly File[], onto: string | null) => {
      if (store.getState().lock) complain("This design cannot be changed.");
      else void placePictures(store, actions, files, onto, complain);
    },
    [store, actions, complain],
  );
  const placeBySelection = useCallback(
    (files: readonly File[]) => placeOn(files, store.getState().selection),
    [placeOn, store],
  );
  useComposerKeys(saveNow, bringIn, placeBySelection);
  useComposerFindables();
  useFocusGuard();
  useRoom();
  useReaderAddress();
  useKeptHistory();
  useAskedSelection();

  useEffect(() => {
    canvas.scroller = scroller.current;
  }, [canvas]);

  return (
    <main className="flex h-full min-w-0 flex-col">
      <h1 className="sr-only">Compose</h1>
      {/* In the page: where the canvas is, in a shadow root, no font can be named. */}
      <LockBar />
      <div className="flex min-h-0 grow">
        <Side side="shelf" folded={folded.shelf} pane={pane}>
          <Shelf />
        </Side>
        {/* A keystroke lays out the table alone: among the sides, in a row, both would be laid out with it. */}
        <div className={`relative min-w-0 grow ${pane === "email" ? "" : "max-sm:hidden"}`}>
          {/* biome-ignore lint/a11y/noStaticElementInteractions: the table under the email; files fall on it, and a press beside the email lets go of the selection */}
          <div
            ref={scroller}
            data-testid="table"
            className="absolute inset-0 overflow-auto bg-table px-6 pt-3.5 pb-24 contain-strict max-sm:px-0"
            onPointerDown={(event) => {
              if (event.target === event.currentTarget) store.getState().select(null);
            }}
            onDragOver={(event) => {
              if (event.dataTransfer.types.includes("Files")) event.preventDefault();
            }}
            onDrop={(event) => {
              const pictures = picturesAmong(event.dataTransfer.files);
              const [file] = event.dataTransfer.files;
              if (!file) return;
              event.preventDefault();
              if (!pictures) {
                bringIn(file);
                return;
              }
              const nodes = canvas.viewAt(event.clientX)?.drawing?.nodesAt(event.nativeEvent.composedPath());
              placeOn(pictures, nodes?.find(({ kind }) => kind === "block")?.id ?? null);
            }}
          >
            <InboxLine />
            <div className={`mx-auto flex w-fit items-start gap-8 max-sm:w-full`}>
              <Canvas device={both ? "desktop" : width} />
              {both && <Canvas device="phone" />}
            </div>
          </div>
        </div>
        <Side side="panel" folded={folded.panel} pane={pane}>
          <Panel />
        </Side>
      </div>
      <PaneChoice />
      <ReaderBar />
      <PictureDialog />
      <UploadProgress />
    </main>
  );
}

/** Saved state, undo, redo, preview and proof, in the campaign's bar. */
/** What is saved is looked over again: what was found stands in the bar. */
function useRecheck(): void {
  const saved = useComposer(({ saving }) => (saving.state === "saved" ? saving.at : null));
  useEffect(() => {
    if (saved !== null) recheck();
  }, [saved]);
}

function Tools({ toolsId }: { toolsId: string }) {
  useRecheck();
  const [place, setPlace] = useState<HTMLElement | null>(null);
  const history = useComposer((state) => state.history);
  const undo = useComposer((state) => state.undo);
  const redo = useComposer((state) => state.redo);
  const campaign = useComposer((state) => state.facts.campaign);
  const reader = useComposer((state) => state.reader);
  useEffect(() => setPlace(document.getElementById(toolsId)), [toolsId]);
  if (!place) return null;
  return createPortal(
    <>
      <SavingWords />
      <IconButton
        icon={Undo2}
        label={`Undo ${history.done.at(-1)?.label.toLowerCase() ?? ""}`.trim()}
        keys="Ctrl + Z"
        disabled={history.done.length === 0}
        onClick={undo}
      />
      <IconButton
        icon={Redo2}
        label={`Redo ${history.undone.at(-1)?.label.toLowerCase() ?? ""}`.trim()}
        keys="Ctrl + Shift + Z"
        disabled={history.undone.length === 0}
        onClick={redo}
      />
      <MoreMenu />
      <Link className={buttonLook()} to={`/campaigns/${campaign}/preview?reader=${reader.id}`}>
        <Eye className="size-4" aria-hidden /> <span className="max-sm:sr-only">Preview</span>
      </Link>
      <Link
        className={`${buttonLook("primary")} max-sm:hidden!`}
        to={`/campaigns/${campaign}/proof?reader=${reader.id}`}
      >
        Send a proof
      </Link>
    </>,
    place,
  );
}
