import { createContext, useContext } from "react";
import { contactName } from "~/core/audience";
import { blockType } from "~/core/blocks";
import {
  commands,
  fromClip,
  nextPlace,
  type Place,
  placeName,
  placesFor,
  readingOrder,
  toClip,
  toClipMany,
} from "~/core/compose";
import { type Block, blocksOf, findNode, pathTo, walk } from "~/core/email";
import { blocksFrom, readHtml, readText } from "~/core/writing";
import { childrenOf } from "./nodes";
import { readerWho } from "./reader-who";
import { make, type ShelfThing } from "./shelf-things";
import type { Stage } from "./stage";
import { type Composer, editionAt, newId, selectedIds } from "./store";

/** What designers do, by whatever means: pointer, keys, buttons. */
export class Actions {
  constructor(
    private readonly store: Composer,
    private readonly stage: Stage,
    private readonly announce: (text: string) => void,
    private readonly complain: (text: string) => void,
  ) {}

  private get several(): string[] {
    return selectedIds(this.store.getState());
  }

  private get selected() {
    const { selection, email } = this.store.getState();
    return selection === null ? undefined : findNode(email, selection);
  }

  /** Adds something from the shelf at a place. */
  add(thing: ShelfThing, place: Place): void {
    const state = this.store.getState();
    const node = make(thing, state.facts);
    const where = placeName(state.email, place);
    if (state.apply(commands.insert(node, thing.kind, place, newId), "Adding")) {
      state.select(node.id);
      this.announce(`Added ${where}.`);
      requestAnimationFrame(() => this.stage.reveal(node.id));
    }
  }

  /** Adds something after the selection, or at the end. */
  addAfterSelection(thing: ShelfThing): void {
    const place = this.placeAfterSelection(thing.kind);
    if (place) this.add(thing, place);
  }

  /** The selected part as the clipboard takes it. */
  copied(): string | null {
    const { selected, several } = this;
    if (several.length > 1) {
      const { email } = this.store.getState();
      const ids = new Set(several);
      return toClipMany(
        [...walk(email)].flatMap((it) => (it.kind === "block" && ids.has(it.node.id) ? [it.node] : [])),
      );
    }
    return selected ? toClip(selected) : null;
  }

  /** Puts a part from the clipboard after the selection. Says whether it was one. */
  paste(clip: string): boolean {
    const part = fromClip(clip, newId);
    const place = part && this.placeAfterSelection(part.kind);
    if (!part || !place) return false;
    const state = this.store.getState();
    if (state.apply(commands.insert(part.node, part.kind, place, newId), "Pasting")) {
      state.select(part.node.id);
      requestAnimationFrame(() => this.stage.reveal(part.node.id));
    }
    return true;
  }

  /** Adds several blocks after the selection, or at the end. */
  addBlocks(blocks: readonly Block[], label: string): boolean {
    const place = this.placeAfterSelection("block");
    if (!place || blocks.length === 0) return false;
    const state = this.store.getState();
    if (!state.apply(commands.insertBlocks(blocks, place, newId), label)) return false;
    state.select(blocks[0].id);
    this.announce(`Added ${blocks.length === 1 ? "a block" : `${blocks.length} blocks`}.`);
    requestAnimationFrame(() => this.stage.reveal(blocks[0].id));
    return true;
  }

  /** Makes blocks of writing from the clipboard. Says whether there were any words. */
  pasteWriting(html: string, text: string): boolean {
    const pieces = html.trim() !== "" ? readHtml(html) : readText(text);
    return this.addBlocks(blocksFrom(pieces, newId), "Pasting");
  }

  private placeAfterSelection(kind: ShelfThing["kind"]): Place | undefined {
    const { email } = this.store.getState();
    const footer = blocksOf(email).find(({ type }) => blockType(type)?.fixed);
    const last = footer && pathTo(email, footer.id)[0];
    // A section never comes below that of the footer.
    const places = placesFor(email, { kind }).filter(
      (one) => kind !== "section" || !last || one.index <= last.index,
    );
    const { selected } = this;
    // What is of its kind around the selection, or the selection itself.
    const around = selected && pathTo(email, selected.node.id).findLast((it) => it.kind === kind);
    const place = around
      ? places.find((one) => one.parent === around.parent && one.index === around.index + 1)
      : selected && places.findLast((one) => one.parent === selected.node.id);
    // Without a selection: at the end, but before the section of the footer.
    return (
      place ??
      places.findLast((one) => one.wants !== "block" && one.parent !== last?.node.id) ??
      places.at(-1)
    );
  }

  /** Moves a part; several selected blocks go together. */
  move(id: string, place: Place): void {
    const state = this.store.getState();
    if (this.several.length > 1 && this.several.includes(id)) {
      const ids = this.several;
      const where = placeName(state.email, place);
      if (state.apply(commands.moveMany(ids, place, newId), "Moving"))
        this.announce(`Moved ${ids.length} blocks ${where}.`);
      return;
    }
    const where = placeName(state.email, place);
    if (state.apply(commands.move(id, place, newId), "Moving")) {
      state.select(id);
      this.announce(`Moved ${where}.`);
      requestAnimationFrame(() => this.stage.reveal(id));
    }
  }

  /** Moves the selection one place on or back. */
  step(direction: 1 | -1): void {
    const { selected } = this;
    if (!selected || selected.kind === "column") return;
    if (this.several.length > 1) {
      this.stepSeveral(direction);
      return;
    }
    const place = nextPlace(
      this.store.getState().email,
      { kind: selected.kind, id: selected.node.id },
      direction,
    );
    if (place) this.move(selected.node.id, place);
    else this.announce(direction > 0 ? "It is the last already." : "It is the first already.");
  }

  /** Moves several blocks together, past the block before the first or after the last of them. */
  private stepSeveral(direction: 1 | -1): void {
    const { email } = this.store.getState();
    const ids = new Set(this.several);
    const order = readingOrder(email);
    const edge = direction > 0 ? order.findLast((id) => ids.has(id)) : order.find((id) => ids.has(id));
    const next = edge && nextPlace(email, { kind: "block", id: edge }, direction);
    if (next) this.move(this.several[0], next);
    else this.announce(direction > 0 ? "They are the last already." : "They are the first already.");
  }

  duplicate(): void {
    const { selected } = this;
    if (!selected) return;
    const state = this.store.getState();
    if (this.several.length > 1) {
      state.apply(commands.duplicateMany(this.several, newId), "Duplicating");
      return;
    }
    if (state.apply(commands.duplicate(selected.node.id, newId), "Duplicating")) {
      const copy = childrenOf(this.store.getState().email, selected.parent)[selected.index + 1];
      state.select(copy ?? null);
    }
  }

  remove(): void {
    const { selected } = this;
    if (!selected) return;
    const state = this.store.getState();
    if (this.several.length > 1) {
      const count = this.several.length;
      if (!state.apply(commands.removeMany(this.several), "Deleting")) return;
      state.select(null);
      this.announce(`Deleted ${count} blocks. Undo brings them back.`);
      return;
    }
    if (!state.apply(commands.remove(selected.node.id), "Deleting")) return;
    const siblings = childrenOf(this.store.getState().email, selected.parent);
    state.select(siblings[Math.min(selected.index, siblings.length - 1)] ?? null);
    this.announce("Deleted. Undo brings it back.");
  }

  /** Selects the next or previous block in reading order. */
  walk(direction: 1 | -1): void {
    const { email, selection, select } = this.store.getState();
    const order = readingOrder(email).filter((id) => this.stage.shows(id));
    const at = selection === null ? -1 : order.indexOf(selection);
    const next = at < 0 ? (direction > 0 ? order[0] : order.at(-1)) : order[at + direction];
    if (next) {
      select(next);
      this.stage.reveal(next);
    }
  }

  /** Selects the next or previous block as well, or lets the last one go again. */
  extend(direction: 1 | -1): void {
    const { email, selection, also, toggle } = this.store.getState();
    const order = readingOrder(email).filter((id) => this.stage.shows(id));
    const at = selection === null ? -1 : order.indexOf(selection);
    const next = order[at + direction];
    if (at < 0 || next === undefined) return;
    if (also.includes(next)) toggle(selection as string);
    else toggle(next);
    this.stage.reveal(next);
  }

  /** Selects what the selection stands in. */
  up(): void {
    this.store.getState().select(this.selected?.parent ?? null);
  }

  /** Looks at the email as a reader who gets a part that this one does not. */
  async showTo(id: string): Promise<void> {
    const { email, set, select } = this.store.getState();
    const rules = pathTo(email, id).flatMap((it) =>
      it.kind === "column" || !it.node.show ? [] : [it.node.show],
    );
    const reader = await readerWho(this.store.getState(), { kind: "all", of: rules });
    if (!reader) {
      this.announce("No reader gets this part.");
      this.complain("No reader gets this part. Look at its rule in the panel.");
      select(id);
      return;
    }
    set({ reader });
    select(id);
    this.announce(`Reading as ${contactName(reader)}.`);
    requestAnimationFrame(() => this.stage.reveal(id));
  }

  /** Looks at the email as the next or previous edition's reader. */
  stepEdition(direction: 1 | -1): void {
    const { editions, edition, set } = this.store.getState();
    if (editions.length === 0) return;
    // A reader who is in none stands before the first.
    const at = Math.max(editionAt(editions, edition), direction < 0 ? 0 : -1);
    const next = editions[(at + direction + editions.length) % editions.length];
    set({ reader: next.sample, edition: next.key });
  }
}

export const ActionsContext = createContext<Actions | null>(null);

export function useActions(): Actions {
  const actions = useContext(ActionsContext);
  if (!actions) throw new Error("outside of a composer");
  return actions;
}
