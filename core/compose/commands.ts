import { blockType, createBlock } from "../blocks";
import {
  type AnyNode,
  type Block,
  CHILDREN,
  type Column,
  childNodes,
  type Email,
  type Envelope,
  equalWidths,
  idsOf,
  type Kind,
  type Located,
  mapNodes,
  type RichDoc,
  type Row,
  type Section,
  sharing,
  valueAt,
  walk,
  withValueAt,
} from "../email";
import { Edit, type Step } from "../steps";
import { freshCopy, type IdMaker } from "./ids";
import type { Carried, Place } from "./places";

/** A command that cannot be done, with a sentence that says why. */
export class CommandError extends Error {
  override name = "CommandError";
}

/** What a command did: the document after it, and the steps that lead there. */
export interface Changed {
  email: Email;
  steps: Step[];
}

/** Does something to a document by the steps that an edit offers. */
export type Command = (edit: Edit) => void;

/** Runs a command. The document given stays as it is. */
export function changeEmail(email: Email, command: Command): Changed {
  const edit = new Edit(email);
  command(edit);
  return { email: edit.email, steps: edit.steps };
}

/** @throws CommandError when it is gone */
export function located(edit: Edit, id: string): Located {
  const found = edit.find(id);
  if (!found) throw new CommandError("It is no longer in the email.");
  return found;
}

/** What stands in a node that is there; in the email itself for `null`. */
function childrenOf(edit: Edit, id: string | null): readonly AnyNode[] {
  if (id === null) return edit.email.sections;
  const { kind, node } = located(edit, id);
  if (kind === "block") throw new CommandError("Nothing can be put inside a block.");
  return childNodes(kind, node);
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

const rowOf = (newId: IdMaker, ...blocks: Block[]): Row => ({
  id: newId(),
  columns: [{ id: newId(), width: 100, blocks }],
});

/**
 * Makes what a place asks for around something that stands there: a row, and a section, where they are wanted.
 * @returns the node that takes it in, and at which index
 */
function prepare(
  edit: Edit,
  carried: Carried["kind"],
  place: Place,
  newId: IdMaker,
): { parent: string | null; index: number } {
  let { parent, index } = place;
  childrenOf(edit, parent);
  if (carried !== "section" && place.wants === "section") {
    const section: Section = { id: newId(), rows: [] };
    edit.insert("section", section, parent, index);
    [parent, index] = [section.id, 0];
  }
  if (carried === "block" && place.wants !== "block") {
    const row = rowOf(newId);
    edit.insert("row", row, parent, index);
    [parent, index] = [row.columns[0].id, 0];
  }
  return { parent, index };
}

/** The blocks of some ids, as they stand. */
function blocksAmong(edit: Edit, ids: readonly string[]) {
  const wanted = new Set(ids);
  return [...walk(edit.email)].flatMap((it) => (it.kind === "block" && wanted.has(it.node.id) ? [it] : []));
}

/** All changes a document can go through, each a function from its arguments to a command. */
export const commands = {
  /** Adds a new block, row or section at a place. */
  insert:
    (node: Section | Row | Block, kind: Carried["kind"], place: Place, newId: IdMaker): Command =>
    (edit) => {
      const { parent, index } = prepare(edit, kind, place, newId);
      edit.insert(kind, node, parent, index);
    },

  /** Adds several blocks at a place, together in one row where the place is between rows. */
  insertBlocks:
    (blocks: readonly Block[], place: Place, newId: IdMaker): Command =>
    (edit) => {
      if (blocks.length === 0) return;
      const { parent, index } = prepare(edit, "block", place, newId);
      for (const [at, block] of blocks.entries()) edit.insert("block", block, parent, index + at);
    },

  /** Puts another design in the place of this one. */
  replaceDesign:
    (email: Email, newId: IdMaker): Command =>
    (edit) => {
      const sections = strangers(edit.email, email)
        ? email.sections.map((it) => freshCopy("section", it, newId))
        : email.sections;
      edit.become({ ...email, sections });
      commands.ensureFooter(newId)(edit);
    },

  /** Adds sections below all others, but above the one that holds the footer; footers among them become words. */
  addSections:
    (sections: readonly Section[], newId: IdMaker): Command =>
    (edit) => {
      const now = edit.email.sections;
      const footed = now.findIndex((section) => holdsFixed("section", section));
      const at = footed < 0 ? now.length : footed;
      for (const [offset, section] of sections.entries()) {
        const worded = mapNodes("section", section, (node) =>
          (node as Block).type === "footer"
            ? { ...createBlock("text", node.id), content: (node as Block).content }
            : node,
        );
        edit.insert("section", freshCopy("section", worded, newId), null, at + offset);
      }
    },

  /** Moves a node. A row that is left with nothing in it, and was not empty before, goes. */
  move:
    (id: string, place: Place, newId: IdMaker): Command =>
    (edit) => {
      const found = located(edit, id);
      if (found.kind === "column") throw new CommandError("A column moves with its row.");
      if (place.parent !== null && idsOf(found).includes(place.parent)) {
        throw new CommandError("It cannot be put inside itself.");
      }
      const shift = found.parent === place.parent && place.index > found.index ? 1 : 0;
      const wrapped = found.kind !== place.wants;
      const { parent, index } = prepare(edit, found.kind, place, newId);
      edit.move(id, parent, wrapped ? index : index - shift);
      if (found.kind === "block") dropEmptyRow(edit, found.parent as string);
    },

  /** Moves several blocks to a place, in the order they stand in; between rows they share one row. */
  moveMany:
    (ids: readonly string[], place: Place, newId: IdMaker): Command =>
    (edit) => {
      const found = blocksAmong(edit, ids);
      if (found.length === 0) return;
      const { parent, index } = prepare(edit, "block", place, newId);
      // Those that stand before the place already make room when they are taken.
      const before = childrenOf(edit, parent)
        .slice(0, index)
        .filter(({ id }) => ids.includes(id)).length;
      for (const [at, { node }] of found.entries()) edit.move(node.id, parent, index - before + at);
      for (const it of found) dropEmptyRow(edit, it.parent as string);
    },

  /** Takes several nodes out; as with one, the footer stays. */
  removeMany:
    (ids: readonly string[]): Command =>
    (edit) => {
      for (const id of ids) if (edit.find(id)) commands.remove(id)(edit);
    },

  /** Puts copies of several blocks after the last of them. */
  duplicateMany:
    (ids: readonly string[], newId: IdMaker): Command =>
    (edit) => {
      const found = blocksAmong(edit, ids);
      const last = found.at(-1);
      if (!last) return;
      if (found.some((it) => holdsFixed(it.kind, it.node)))
        throw new CommandError("An email has one footer.");
      for (const [at, { node }] of found.entries())
        edit.insert("block", freshCopy("block", node, newId), last.parent, last.index + 1 + at);
    },

  /** Sets the same properties of several nodes. */
  setMany:
    (ids: readonly string[], properties: Readonly<Record<string, unknown>>): Command =>
    (edit) => {
      for (const id of ids) commands.set(id, properties)(edit);
    },

  /** Takes a node out. The footer stays. */
  remove:
    (id: string): Command =>
    (edit) => {
      const found = located(edit, id);
      if (holdsFixed(found.kind, found.node)) {
        throw new CommandError(
          "The footer holds the unsubscribe link and the postal address. It can be moved, not deleted.",
        );
      }
      const siblings = childrenOf(edit, found.parent);
      if (found.kind === "column" && siblings.length === 1)
        throw new CommandError("A row has at least one column. Delete the row instead.");
      edit.remove(id);
      if (found.kind !== "column") return;
      const rest = siblings.filter((one) => one.id !== id);
      for (const [at, width] of equalWidths(rest.length).entries()) edit.set(rest[at].id, "width", width);
    },

  /** Puts a copy right after a node. */
  duplicate:
    (id: string, newId: IdMaker): Command =>
    (edit) => {
      const { kind, node, parent, index } = located(edit, id);
      if (holdsFixed(kind, node)) throw new CommandError("An email has one footer.");
      if (kind === "column") throw new CommandError("Columns are added in the row’s look.");
      edit.insert(kind, freshCopy<AnyNode>(kind, node, newId), parent, index + 1);
    },

  /** Sets properties of a node; `undefined` takes a property away. Ids, types and children cannot be set. */
  set:
    (id: string, properties: Readonly<Record<string, unknown>>): Command =>
    (edit) => {
      const { kind } = located(edit, id);
      for (const [key, value] of Object.entries(properties)) {
        if (key === "id" || key === "type" || key === CHILDREN[kind]?.list)
          throw new CommandError(`“${key}” cannot be set.`);
        edit.set(id, key, value);
      }
    },

  /** Sets what stands at a path inside a node, such as `items/2/content`. */
  setAt:
    (id: string, path: string, value: unknown): Command =>
    (edit) => {
      located(edit, id);
      const own = edit.own(id);
      const next = withValueAt(own, path, sharing(valueAt(own, path), value));
      const [key] = path.split("/");
      commands.set(id, { [key]: next[key] })(edit);
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
    (edit) => {
      const { kind, node, parent, index } = located(edit, id);
      if (kind !== "block") throw new CommandError("Only a block can be split.");
      const rest = after && { ...freshCopy("block", node, newId), content: after };
      if (before) edit.set(id, "content", before);
      else edit.remove(id);
      const at = index + (before ? 1 : 0);
      for (const [offset, one] of [...nodes, ...(rest ? [rest] : [])].entries())
        edit.insert("block", one, parent, at + offset);
    },

  /** Sets how a row is divided. Blocks of columns that go move to the last one that stays. */
  divide:
    (id: string, widths: readonly number[], newId: IdMaker): Command =>
    (edit) => {
      const found = located(edit, id);
      if (found.kind !== "row") throw new CommandError("Only rows have columns.");
      const columns = found.node.columns;
      const [stay, spare] = [columns.slice(0, widths.length), columns.slice(widths.length)];
      let room = stay.at(-1)?.blocks.length ?? 0;
      for (const column of spare) {
        for (const block of column.blocks) edit.move(block.id, (stay.at(-1) as Column).id, room++);
        edit.remove(column.id);
      }
      for (const [index, width] of widths.entries()) {
        if (stay[index]) edit.set(stay[index].id, "width", width);
        else edit.insert("column", { id: newId(), width, blocks: [] }, id, index);
      }
    },

  /** Sets sender, subject or preheader. */
  setEnvelope:
    (properties: Partial<Envelope>): Command =>
    (edit) =>
      edit.set(null, "envelope", { ...edit.email.envelope, ...properties }),

  /** Sets what is done to all links, or how the text part is written. */
  setWhole:
    (properties: Partial<Pick<Email, "links" | "textPart" | "language">>): Command =>
    (edit) => {
      for (const [key, value] of Object.entries(properties)) edit.set(null, key, value);
    },

  setTheme:
    (theme: string): Command =>
    (edit) =>
      edit.set(null, "theme", theme),

  /** Puts the footer back at the end when a document from elsewhere has none. */
  ensureFooter:
    (newId: IdMaker): Command =>
    (edit) => {
      const { sections } = edit.email;
      if (sections.some((section) => holdsFixed("section", section))) return;
      const footer = rowOf(newId, createBlock("footer", newId()));
      edit.insert("section", { id: newId(), rows: [footer] }, null, sections.length);
    },
};

function dropEmptyRow(edit: Edit, columnId: string): void {
  const column = edit.find(columnId);
  if (column?.kind !== "column" || column.node.blocks.length > 0) return;
  const row = located(edit, column.parent as string);
  if (row.kind !== "row" || row.node.columns.length > 1) return;
  edit.remove(row.node.id);
  if (childrenOf(edit, row.parent).length === 0) edit.remove(row.parent as string);
}
