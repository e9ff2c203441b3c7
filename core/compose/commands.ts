import { current, isDraft, produce } from "immer";
import { blockType, createBlock } from "../blocks";
import {
  type AnyNode,
  type Block,
  CHILDREN,
  childNodes,
  type Email,
  type Envelope,
  equalWidths,
  findNode,
  idsOf,
  type Kind,
  type Located,
  ownOf,
  type RichDoc,
  type Row,
  type Section,
  sharing,
  valueAt,
  walk,
  withValueAt,
} from "../email";
import { difference, type Step } from "../steps";
import { freshCopy, type IdMaker } from "./ids";
import type { Carried, Place } from "./places";

/** A command that cannot be done, with a sentence that says why. */
export class CommandError extends Error {
  override name = "CommandError";
}

/** What a command did: the document after it, and the steps that lead there. */
export interface Change {
  email: Email;
  steps: Step[];
}

/** Changes a draft of the document in place. What it did is read off as steps. */
export type Command = (draft: Email) => void;

/** Runs a command. The document given stays as it is. */
export function changeEmail(email: Email, command: Command): Change {
  const next = produce(email, (draft) => command(draft as Email));
  return { email: next, steps: difference(email, next) };
}

/** A part of a draft as it stands, to be used beside the draft. */
export const plain = <T>(it: T): T => (isDraft(it) ? (current(it as object) as T) : it);

function locate(draft: Email, id: string): Located {
  const found = findNode(draft, id);
  if (!found) throw new CommandError("It is no longer in the email.");
  return found;
}

function childrenOf(draft: Email, id: string | null): AnyNode[] {
  const parent = id === null ? ({ kind: "email", node: draft } as const) : locate(draft, id);
  if (parent.kind === "block") throw new CommandError("Nothing can be put inside a block.");
  return childNodes(parent.kind, parent.node) as AnyNode[];
}

/** Whether a node is a block that has to stay, or holds one. */
function holdsFixed(kind: Kind, node: AnyNode): boolean {
  const down = CHILDREN[kind];
  if (down) return childNodes(kind, node).some((child) => holdsFixed(down.kind, child));
  return blockType((node as Block).type)?.fixed === true;
}

/** Whether both emails have a node of that id, of different kinds: then they are not versions of one design. */
function strangers(one: Email, other: Email): boolean {
  const kinds = new Map([...walk(one)].map(({ kind, node }) => [node.id, kind]));
  return [...walk(other)].some(({ kind, node }) => kinds.has(node.id) && kinds.get(node.id) !== kind);
}

function rowOf(newId: IdMaker, ...blocks: Block[]): Row {
  return { id: newId(), columns: [{ id: newId(), width: 100, blocks }] };
}

/** Puts what was carried at a place, wrapped in a row or section where the place asks for one. */
function put(
  draft: Email,
  node: Section | Row | Block,
  carried: Carried["kind"],
  place: Place,
  newId: IdMaker,
): void {
  let wrapped: Section | Row | Block = node;
  if (carried === "block" && place.wants !== "block") wrapped = rowOf(newId, wrapped as Block);
  if (carried !== "section" && place.wants === "section") wrapped = { id: newId(), rows: [wrapped as Row] };
  childrenOf(draft, place.parent).splice(place.index, 0, wrapped);
}

/** All changes a document can go through, each a function from its arguments to a command. */
export const commands = {
  /** Adds a new block, row or section at a place. */
  insert:
    (node: Section | Row | Block, kind: Carried["kind"], place: Place, newId: IdMaker): Command =>
    (draft) =>
      put(draft, node, kind, place, newId),

  /** Adds several blocks at a place, together in one row where the place is between rows. */
  insertBlocks:
    (blocks: readonly Block[], place: Place, newId: IdMaker): Command =>
    (draft) => {
      if (blocks.length === 0) return;
      if (place.wants === "block") childrenOf(draft, place.parent).splice(place.index, 0, ...blocks);
      else put(draft, rowOf(newId, ...blocks), "row", place, newId);
    },

  /** Puts another design in the place of this one. */
  replaceDesign:
    (email: Email, newId: IdMaker): Command =>
    (draft) => {
      const before = draft as unknown as Record<string, unknown>;
      for (const key of Object.keys(before)) if (!Object.hasOwn(email, key)) delete before[key];
      const fits = !strangers(plain(draft), email);
      const sections = fits ? email.sections : email.sections.map((it) => freshCopy("section", it, newId));
      Object.assign(draft, email, { sections });
      commands.ensureFooter(newId)(draft);
    },

  /** Adds sections below all others, but above the one that holds the footer; footers among them become words. */
  addSections:
    (sections: readonly Section[], newId: IdMaker): Command =>
    (draft) => {
      const fresh = sections.map((it) => freshCopy("section", it, newId));
      for (const section of fresh)
        for (const row of section.rows)
          for (const column of row.columns)
            column.blocks = column.blocks.map((block) =>
              block.type === "footer" ? { ...createBlock("text", block.id), content: block.content } : block,
            );
      const at = draft.sections.findIndex((section) => holdsFixed("section", section));
      draft.sections.splice(at < 0 ? draft.sections.length : at, 0, ...fresh);
    },

  /** Moves a node. A row that is left with nothing in it, and was not empty before, goes. */
  move:
    (id: string, place: Place, newId: IdMaker): Command =>
    (draft) => {
      const found = locate(draft, id);
      if (found.kind === "column") throw new CommandError("A column moves with its row.");
      if (place.parent !== null && idsOf(found).includes(place.parent)) {
        throw new CommandError("It cannot be put inside itself.");
      }
      const from = childrenOf(draft, found.parent);
      const shift = found.parent === place.parent && place.index > found.index ? 1 : 0;
      const node = plain(found.node) as Section | Row | Block;
      from.splice(found.index, 1);
      put(draft, node, found.kind, { ...place, index: place.index - shift }, newId);
      if (found.kind === "block") dropEmptyRow(draft, found.parent!);
    },

  /** Moves several blocks to a place, in the order they stand in; between rows they share one row. */
  moveMany:
    (ids: readonly string[], place: Place, newId: IdMaker): Command =>
    (draft) => {
      const wanted = new Set(ids);
      const found = [...walk(draft)].filter((it) => it.kind === "block" && wanted.has(it.node.id));
      const copies = found.map((it) => plain(it.node) as Block);
      // The originals are told apart from their copies until they are gone.
      const gone = found.map((it) => {
        it.node.id = `gone ${it.node.id}`;
        return it.node.id;
      });
      commands.insertBlocks(copies, place, newId)(draft);
      for (const id of gone) {
        const { parent, index } = locate(draft, id);
        childrenOf(draft, parent).splice(index, 1);
        dropEmptyRow(draft, parent!);
      }
    },

  /** Takes several nodes out; as with one, the footer stays. */
  removeMany:
    (ids: readonly string[]): Command =>
    (draft) => {
      for (const id of ids) if (findNode(draft, id)) commands.remove(id)(draft);
    },

  /** Puts copies of several blocks after the last of them. */
  duplicateMany:
    (ids: readonly string[], newId: IdMaker): Command =>
    (draft) => {
      const wanted = new Set(ids);
      const found = [...walk(draft)].filter((it) => it.kind === "block" && wanted.has(it.node.id));
      const last = found.at(-1);
      if (!last) return;
      if (found.some((it) => holdsFixed(it.kind, it.node)))
        throw new CommandError("An email has one footer.");
      const copies = found.map((it) => freshCopy("block", plain(it.node) as Block, newId));
      childrenOf(draft, last.parent).splice(last.index + 1, 0, ...copies);
    },

  /** Sets the same properties of several nodes. */
  setMany:
    (ids: readonly string[], properties: Readonly<Record<string, unknown>>): Command =>
    (draft) => {
      for (const id of ids) commands.set(id, properties)(draft);
    },

  /** Takes a node out. The footer stays. */
  remove:
    (id: string): Command =>
    (draft) => {
      const found = locate(draft, id);
      if (holdsFixed(found.kind, found.node)) {
        throw new CommandError(
          "The footer holds the unsubscribe link and the postal address. It can be moved, not deleted.",
        );
      }
      if (found.kind === "column") {
        const row = locate(draft, found.parent!).node as Row;
        if (row.columns.length === 1)
          throw new CommandError("A row has at least one column. Delete the row instead.");
        row.columns.splice(found.index, 1);
        spread(row);
        return;
      }
      childrenOf(draft, found.parent).splice(found.index, 1);
    },

  /** Puts a copy right after a node. */
  duplicate:
    (id: string, newId: IdMaker): Command =>
    (draft) => {
      const found = locate(draft, id);
      if (holdsFixed(found.kind, found.node)) throw new CommandError("An email has one footer.");
      if (found.kind === "column") throw new CommandError("Columns are added in the row’s look.");
      childrenOf(draft, found.parent).splice(
        found.index + 1,
        0,
        freshCopy(found.kind, plain(found.node), newId),
      );
    },

  /** Sets properties of a node; `undefined` takes a property away. Ids, types and children cannot be set. */
  set:
    (id: string, properties: Readonly<Record<string, unknown>>): Command =>
    (draft) => {
      const { kind, node } = locate(draft, id);
      for (const [key, value] of Object.entries(properties)) {
        if (key === "id" || key === "type" || key === CHILDREN[kind]?.list)
          throw new CommandError(`“${key}” cannot be set.`);
        setProperty(node, key, value);
      }
    },

  /** Sets what stands at a path inside a node, such as `items/2/content`. */
  setAt:
    (id: string, path: string, value: unknown): Command =>
    (draft) => {
      const { kind, node } = locate(draft, id);
      const own = ownOf(kind, plain(node));
      const next = withValueAt(own, path, sharing(valueAt(own, path), value));
      const [key] = path.split("/");
      commands.set(id, { [key]: next[key] })(draft);
    },

  /**
   * Puts new blocks into a text: what stood before the cursor stays above them, what stood after goes below. Where nothing
   * stood before, they take the place of the text.
   */
  splitText:
    (
      id: string,
      before: RichDoc | null,
      after: RichDoc | null,
      nodes: readonly Block[],
      newId: IdMaker,
    ): Command =>
    (draft) => {
      const found = locate(draft, id);
      if (found.kind !== "block") throw new CommandError("Only a block can be split.");
      const siblings = childrenOf(draft, found.parent);
      const rest = after && { ...freshCopy("block", plain(found.node), newId), content: after };
      if (before) found.node.content = before;
      siblings.splice(found.index + (before ? 1 : 0), before ? 0 : 1, ...nodes, ...(rest ? [rest] : []));
    },

  /** Sets how a row is divided. Blocks of columns that go move to the last one that stays. */
  divide:
    (id: string, widths: readonly number[], newId: IdMaker): Command =>
    (draft) => {
      const found = locate(draft, id);
      if (found.kind !== "row") throw new CommandError("Only rows have columns.");
      const { columns } = found.node;
      const spare = columns.splice(widths.length);
      for (const column of spare) columns[columns.length - 1].blocks.push(...column.blocks);
      for (const [index, width] of widths.entries()) {
        if (columns[index]) columns[index].width = width;
        else columns.push({ id: newId(), width, blocks: [] });
      }
    },

  /** Sets sender, subject or preheader. */
  setEnvelope:
    (properties: Partial<Envelope>): Command =>
    (draft) => {
      Object.assign(draft.envelope, properties);
    },

  /** Sets what is done to all links, or how the text part is written. */
  setWhole:
    (properties: Partial<Pick<Email, "links" | "textPart" | "language">>): Command =>
    (draft) => {
      for (const [key, value] of Object.entries(properties)) setProperty(draft, key, value);
    },

  setTheme:
    (theme: string): Command =>
    (draft) => {
      draft.theme = theme;
    },

  /** Puts the footer back at the end when a document from elsewhere has none. */
  ensureFooter:
    (newId: IdMaker): Command =>
    (draft) => {
      if (draft.sections.some((section) => holdsFixed("section", section))) return;
      draft.sections.push({ id: newId(), rows: [rowOf(newId, createBlock("footer", newId()))] });
    },
};

function setProperty(node: object, key: string, value: unknown): void {
  const record = node as Record<string, unknown>;
  if (value === undefined) delete record[key];
  else record[key] = value;
}

function spread(row: Row): void {
  const widths = equalWidths(row.columns.length);
  for (const [index, column] of row.columns.entries()) column.width = widths[index];
}

function dropEmptyRow(draft: Email, columnId: string): void {
  const column = findNode(draft, columnId);
  if (column?.kind !== "column") return;
  const row = findNode(draft, column.parent!);
  if (row?.kind !== "row" || row.node.columns.length > 1 || column.node.blocks.length > 0) return;
  const section = locate(draft, row.parent!).node as Section;
  section.rows.splice(row.index, 1);
  if (section.rows.length === 0) {
    const index = draft.sections.findIndex((other) => other.id === section.id);
    draft.sections.splice(index, 1);
  }
}
