import { createContext, useContext } from "react";
import { createStore, type StoreApi, useStore } from "zustand";
import type { AudienceContext, Contact } from "~/core/audience";
import {
  type Carried,
  type Command,
  CommandError,
  changeEmail,
  changesLinked,
  History,
  heldBy,
  type Place,
} from "~/core/compose";
import { type Brand, blocksOf, type Email, findNode, type TagFacts, type Theme } from "~/core/email";
import type { ItemFact, SourceKind } from "~/core/items";
import type { World } from "~/core/personal";
import type { RuleWords } from "~/server/audience/words";
import type { ClippingLine } from "~/server/campaigns/clippings";
import type { Lock } from "~/server/campaigns/lock";
import type { PickedFor } from "~/server/sources/picks";
import type { PictureFacts } from "../../pictures/facts";
import type { Asked } from "./asked";
import type { Question, Saving } from "./saving";

/** Why a design cannot be changed, by what was ordered with it. */
const LOCKED: Record<Lock["state"], string> = {
  scheduled: "This design is scheduled. Take it back to change it.",
  gathering: "This design is going out. Make a copy to change it.",
  sending: "This design is going out. Make a copy to change it.",
  paused: "This design is going out. Make a copy to change it.",
  sent: "This design was sent. Make a copy to change it.",
};

const LINKED =
  "This is part of a linked clipping. Change it everywhere or cut it loose: both are in the panel.";

type Caret = "start" | "end" | "all";

/** What the composer knows besides the email; given when it opens. */
export interface Facts {
  campaign: string;
  brand: Brand;
  /** What tags may ask besides the brand and the reader. */
  tags: TagFacts;
  /** All that designs may name. */
  themes: readonly Theme[];
  /** Those of the workspace's own that can be chosen. */
  ownThemes: readonly Theme[];
  /** What rules and tags may speak of. */
  words: RuleWords;
  sources: readonly {
    id: string;
    name: string;
    kind: SourceKind;
    held: number;
    failure: string | null;
    /** What its items have besides what all have. */
    facts: readonly ItemFact[];
  }[];
  /** What lists by rule give the reader, by the block; what they gave last while it is worked out anew. */
  picks: ReadonlyMap<string, PickedFor>;
  audience: AudienceContext;
  /** By the key of a field: how many of the chosen readers lack it. */
  lacking: Readonly<Record<string, number>>;
}

/** What a program meets in the composer, bound for the reader on the canvas. */
export function worldOf({ audience, picks }: Pick<Facts, "audience" | "picks">): World {
  return {
    audience,
    picks({ block }) {
      const picked = picks.get(block);
      return picked && { items: picked.items, pick: () => picked.ways.map((way, at) => ({ at, way })) };
    },
  };
}

export interface EditionFacts {
  key: string;
  /** The keys of readers who answer otherwise and get the same. */
  also: string[];
  count: number;
  sample: Contact;
}

/** What the steps of typing are merged under begins so. */
export const TYPING = "words ";

export type ComposerDialog =
  | "keys"
  | "intake"
  | "links"
  | "weights"
  | "template"
  | "questions"
  | "text"
  | "languages"
  | "versions";

export interface ComposerState {
  facts: Facts;
  pictures: readonly PictureFacts[];
  email: Email;
  /** The email as it was when the hand last rested: words being typed on the canvas come to it a moment later. */
  resting: Email;
  history: History;
  selection: string | null;
  /** Blocks selected besides; empty when one thing or nothing is selected. */
  also: readonly string[];
  /** The node whose text is being edited. */
  editing: string | null;
  /** Which of its words: the property that holds them. */
  editingKey: string;
  /** Where the cursor stands when words begin to be edited; or all of them are selected. */
  caret: Caret;
  reader: Contact;
  editions: readonly EditionFacts[];
  audienceSize: number;
  /** The edition the reader gets, by its key. */
  edition: string | null;
  /** Whether the editions are those of the design as it stands: being counted, or not to be had. */
  counted: "counted" | "counting" | "away";
  /** What stands in the way of working out the editions. */
  trouble: string | null;
  /** UTF-8 octets of the HTML this reader gets. */
  bytes: number | null;
  /** The device one works for. */
  width: "desktop" | "phone";
  /** Whether the phone stands beside the desktop on the table. */
  both: boolean;
  dark: boolean;
  /** A theme that is tried on the canvas; the design keeps its own. */
  trial: Theme | null;
  /** The theme being made or changed in the panel, and the one of the workspace it is a version of. */
  making: { of: Theme; own: boolean } | null;
  carried: Carried | null;
  landing: Place | null;
  /** A place on the canvas that waits for a picture and was pressed: the block, and the path of the picture in it. */
  choosing: { id: string; path: string } | null;
  /** Pictures on their way to the workspace. */
  uploading: { count: number; share: number } | null;
  /** Which of the parts is in view where there is room for one only. */
  pane: "email" | "shelf" | "panel";
  /** Counts drawings of the canvas, so that what floats above it follows. */
  drawn: number;
  saving: Saving;
  revision: number;
  /** Contradictions with another window that are still to be decided. */
  questions: readonly Question[];
  /** In how many other windows the design is open. */
  others: number;
  /** What holds the design, so that it cannot be changed; null when nothing does. */
  lock: Lock | null;
  shelf: "add" | "clippings" | "outline" | "ask";
  /** What the writing assistant was asked about this email, the newest first. */
  asked: readonly Asked[];
  /** The clippings of the workspace; null until they are known. */
  clippings: readonly ClippingLine[] | null;
  /** Whether a clipping stays linked when it is put into the email. */
  stayLinked: boolean;
  /** The linked part that is being changed for every place, by its id; `every` for all of them. */
  opened: string | null;
  folded: { shelf: boolean; panel: boolean };
  /** What is open above the composer. */
  dialog: ComposerDialog | null;

  /** Changes the email; says so when it cannot. Returns whether it was done. */
  apply(command: Command, label: string, merge?: string): boolean;
  undo(): void;
  redo(): void;
  select(id: string | null): void;
  /** Selects all blocks from the selected one to this one. */
  selectTo(id: string): void;
  /** Adds a block to those selected, or takes it from them. */
  toggle(id: string): void;
  /** What is changed meanwhile belongs to the last deed of the same field: one undo takes both back. */
  closing(body: () => void): void;
  edit(id: string | null, key?: string, at?: Caret): void;
  set(part: Partial<ComposerState>): void;
}

export type Composer = StoreApi<ComposerState>;

interface Start {
  facts: Facts;
  pictures: readonly PictureFacts[];
  email: Email;
  revision: number;
  savedAt: string;
  reader: Contact;
  editions: readonly EditionFacts[];
  audienceSize: number;
  /** Why the editions cannot be told. */
  trouble: string | null;
  lock: Lock | null;
}

/** Which of the editions a reader's is, from 0; -1 when it is none of them. */
export const editionAt = (editions: readonly EditionFacts[], key: string | null): number =>
  editions.findIndex((one) => one.key === key || (key !== null && one.also.includes(key)));

/** All that is selected, the one selected last first. */
export function selectedIds({ selection, also }: Pick<ComposerState, "selection" | "also">): string[] {
  return selection === null ? [] : [selection, ...also];
}

/** The state of one composer. `complain` shows the designer why something cannot be done. */
export function createComposer(start: Start, complain: (text: string) => void): Composer {
  let typing = false;
  let closing = false;
  const composer = createStore<ComposerState>((set, get) => {
    const travel = (move: typeof History.undo) => {
      const { history, email, selection } = get();
      const undone = move(history, email);
      if (!undone) return;
      const there = (id: string | null) => id !== null && findNode(undone.email, id) !== undefined;
      // What came back, or what changed, is shown selected; a row stays it while its columns come and go.
      const at = selection === null ? undefined : findNode(undone.email, selection);
      const inRow = at?.kind === "row" && at.node.columns.some(({ id }) => id === undone.node);
      const shown = there(undone.node) && !inRow ? undone.node : at ? selection : null;
      set({
        also: get().also.filter((id) => shown === selection && there(id)),
        email: undone.email,
        history: undone.history,
        selection: shown,
        editing: there(get().editing) ? get().editing : null,
      });
      if (undone.clashes.length > 0)
        complain("Part of it was changed in another window since, and was left as it is.");
    };
    return {
      facts: start.facts,
      pictures: start.pictures,
      email: start.email,
      resting: start.email,
      history: History.empty,
      selection: null,
      also: [],
      editing: null,
      editingKey: "content",
      caret: "end",
      reader: start.reader,
      editions: start.editions,
      audienceSize: start.audienceSize,
      edition: start.editions.find(({ sample }) => sample.id === start.reader?.id)?.key ?? null,
      counted: "counted",
      trouble: start.trouble,
      bytes: null,
      width: "desktop",
      both: false,
      dark: false,
      trial: null,
      making: null,
      carried: null,
      landing: null,
      choosing: null,
      uploading: null,
      pane: "email",
      drawn: 0,
      saving: { state: "saved", at: start.savedAt },
      revision: start.revision,
      questions: [],
      others: 0,
      lock: start.lock,
      shelf: "add",
      asked: [],
      clippings: null,
      stayLinked: true,
      opened: null,
      folded: { shelf: false, panel: false },
      dialog: null,

      closing(body) {
        closing = true;
        try {
          body();
        } finally {
          closing = false;
        }
      },
      apply(command, label, merge) {
        const { email, history, lock, opened } = get();
        if (lock) {
          complain(LOCKED[lock.state]);
          return false;
        }
        try {
          const change = changeEmail(email, command);
          if (changesLinked(email, change.steps, opened)) throw new CommandError(LINKED);
          typing = merge?.startsWith(TYPING) ?? false;
          set({
            email: change.email,
            history: History.add(history, change, label, Date.now(), merge, closing),
          });
          return true;
        } catch (error) {
          if (!(error instanceof CommandError)) throw error;
          complain(error.message);
          return false;
        }
      },
      undo: () => travel(History.undo),
      redo: () => travel(History.redo),
      select(id) {
        const { selection, editing, also } = get();
        if (selection === id && editing === null && also.length === 0) return;
        set({ selection: id, also: [], editing: null });
      },
      selectTo(id) {
        const { selection, email } = get();
        const order = blocksOf(email).map((block) => block.id);
        const [from, to] = [order.indexOf(selection ?? ""), order.indexOf(id)];
        if (from < 0 || to < 0) {
          set({ selection: id, also: [], editing: null });
          return;
        }
        // The one the range began with stays the selected one, so that it can be drawn anew from there.
        const range = order.slice(Math.min(from, to), Math.max(from, to) + 1);
        set({ also: range.filter((one) => one !== selection), editing: null });
      },
      toggle(id) {
        const { selection, also, email } = get();
        const isBlock = (one: string | null) => one !== null && findNode(email, one)?.kind === "block";
        if (!isBlock(selection) || !isBlock(id)) set({ selection: id, also: [], editing: null });
        else if (id === selection) set({ selection: also[0] ?? null, also: also.slice(1), editing: null });
        else if (also.includes(id)) set({ also: also.filter((one) => one !== id), editing: null });
        else set({ selection: id, also: [...also, selection as string], editing: null });
      },
      edit(id, key = "content", at = "end") {
        if (get().lock && id !== null) {
          complain(LOCKED[(get().lock as Lock).state]);
          return;
        }
        const { editing, editingKey, selection, email, opened } = get();
        if (id !== null && heldBy(email, id, opened)) {
          set({ selection: id, also: [], editing: null });
          complain(LINKED);
          return;
        }
        if (id !== editing || key !== editingKey)
          set({ editing: id, editingKey: key, caret: at, selection: id ?? selection, also: [] });
      },
      set,
    };
  });
  letRest(composer, () => {
    const was = typing;
    typing = false;
    return was;
  });
  return composer;
}

/** So long after the last sign the hand rests, in milliseconds. */
const REST = 160;

/** Keeps `resting`: at once with whatever happens, but a moment after words that are typed. */
function letRest(composer: Composer, typed: () => boolean): void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const rest = () => {
    clearTimeout(timer);
    const { email, resting } = composer.getState();
    if (email !== resting) composer.setState({ resting: email });
  };
  composer.subscribe((state, before) => {
    if (state.editing !== before.editing) rest();
    else if (state.email !== before.email) {
      if (!typed()) rest();
      else {
        clearTimeout(timer);
        timer = setTimeout(rest, REST);
      }
    }
  });
}

export const newId = () => crypto.randomUUID().replaceAll("-", "").slice(0, 12);

export const ComposerContext = createContext<Composer | null>(null);

/** The store itself, for reading inside event handlers. */
export function useComposerStore(): Composer {
  const store = useContext(ComposerContext);
  if (!store) throw new Error("outside of a composer");
  return store;
}

/** A part of the state; re-renders only when that part changes. */
export function useComposer<T>(select: (state: ComposerState) => T): T {
  return useStore(useComposerStore(), select);
}
