import type { Editor } from "@tiptap/core";
import { createContext, useContext } from "react";
import { createStore, type StoreApi, useStore } from "zustand";
import type { AudienceContext, Contact, FieldDef, Rule } from "~/core/audience";
import { type Carried, type Command, CommandError, changeEmail, History, type Place } from "~/core/compose";
import { type Brand, type Email, findNode } from "~/core/email";
import type { LiveContent } from "~/core/sources";
import type { Slash } from "./text/slash";

export interface PictureFacts {
  id: string;
  name: string;
  path: string;
  width: number;
  height: number;
  bytes: number;
  alt: string;
}

/** What the composer knows besides the email; given when it opens. */
export interface Facts {
  campaign: string;
  brand: Brand;
  fields: readonly FieldDef[];
  lists: readonly { id: string; name: string }[];
  segments: readonly { id: string; name: string; rule: Rule }[];
  sources: readonly { id: string; name: string; articles: number; failure: string | null }[];
  content: LiveContent;
  audience: AudienceContext;
}

export interface EditionFacts {
  key: string;
  count: number;
  sample: Contact;
}

/** How the design stands towards the server. */
export type Saving =
  | { state: "saved" | "waiting" | "saving"; at: string }
  | { state: "away"; at: string }
  | {
      state: "conflict";
      at: string;
      other: Email;
      otherRevision: number;
      /** What both went on from; null when it is not known any more. */
      base: Email | null;
    };

export type ComposerDialog = "keys" | "intake" | "links" | "text" | "versions";

export interface ComposerState {
  facts: Facts;
  pictures: readonly PictureFacts[];
  email: Email;
  history: History;
  selection: string | null;
  /** Blocks selected besides; empty when one thing or nothing is selected. */
  also: readonly string[];
  /** The node whose text is being edited, and its editor. */
  editing: string | null;
  /** Which of its words: the property that holds them. */
  editingKey: string;
  editor: Editor | null;
  reader: Contact;
  editions: readonly EditionFacts[];
  audienceSize: number;
  /** The edition the reader gets, by its key. */
  edition: string | null;
  /** What stands in the way of working out the editions. */
  trouble: string | null;
  /** UTF-8 octets of the HTML this reader gets. */
  bytes: number;
  width: "desktop" | "phone";
  dark: boolean;
  /** The `/` being typed in a text, and which entry of its menu is meant. */
  slash: Slash | null;
  slashAt: number;
  carried: Carried | null;
  landing: Place | null;
  /** Counts drawings of the canvas, so that what floats above it follows. */
  drawn: number;
  saving: Saving;
  revision: number;
  shelf: "add" | "outline";
  folded: { shelf: boolean; panel: boolean };
  /** What is open above the composer. */
  dialog: ComposerDialog | null;

  /** Changes the email; says so when it cannot. Returns whether it was done. */
  apply(command: Command, label: string, merge?: string): boolean;
  undo(): void;
  redo(): void;
  select(id: string | null): void;
  /** Adds a block to those selected, or takes it from them. */
  toggle(id: string): void;
  edit(id: string | null, key?: string): void;
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
}

/** All that is selected, the one selected last first. */
export function selectedIds({ selection, also }: Pick<ComposerState, "selection" | "also">): string[] {
  return selection === null ? [] : [selection, ...also];
}

/** The state of one composer. `complain` shows the designer why something cannot be done. */
export function createComposer(start: Start, complain: (text: string) => void): Composer {
  return createStore<ComposerState>((set, get) => {
    const travel = (move: typeof History.undo) => {
      const { history, email, selection } = get();
      const step = move(history, email);
      if (!step) return;
      const gone = selection !== null && !findNode(step.email, selection);
      set({
        also: get().also.filter((id) => !gone && findNode(step.email, id)),
        email: step.email,
        history: step.history,
        selection: gone ? null : selection,
        editing: gone ? null : get().editing,
      });
    };
    return {
      facts: start.facts,
      pictures: start.pictures,
      email: start.email,
      history: History.empty,
      selection: null,
      also: [],
      editing: null,
      editingKey: "content",
      editor: null,
      reader: start.reader,
      editions: start.editions,
      audienceSize: start.audienceSize,
      edition: null,
      trouble: null,
      bytes: 0,
      width: "desktop",
      dark: false,
      slash: null,
      slashAt: 0,
      carried: null,
      landing: null,
      drawn: 0,
      saving: { state: "saved", at: start.savedAt },
      revision: start.revision,
      shelf: "add",
      folded: { shelf: false, panel: false },
      dialog: null,

      apply(command, label, merge) {
        try {
          const { email, history } = get();
          const change = changeEmail(email, command);
          set({ email: change.email, history: History.add(history, change, label, Date.now(), merge) });
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
      toggle(id) {
        const { selection, also, email } = get();
        const isBlock = (one: string | null) => one !== null && findNode(email, one)?.kind === "block";
        if (!isBlock(selection) || !isBlock(id)) set({ selection: id, also: [], editing: null });
        else if (id === selection) set({ selection: also[0] ?? null, also: also.slice(1), editing: null });
        else if (also.includes(id)) set({ also: also.filter((one) => one !== id), editing: null });
        else set({ selection: id, also: [...also, selection as string], editing: null });
      },
      edit(id, key = "content") {
        const { editing, editingKey, selection } = get();
        if (id !== editing || key !== editingKey)
          set({ editing: id, editingKey: key, selection: id ?? selection, also: [] });
      },
      set,
    };
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
