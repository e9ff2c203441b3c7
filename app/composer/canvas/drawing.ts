import { type Block, blocksOf, same } from "~/core/email";
import { bindPart, previewAddresses, readerOf, run, type World } from "~/core/personal";
import { type CompileOptions, canvasCss, compileBlock, compileFrame, type Surroundings } from "~/core/render";
import { patch } from "../../ui/patch";
import { shownEmail } from "../state/language";
import type { ComposerState } from "../state/store";
import { shownTheme } from "../state/theme";
import { dressFrames, frameOwnHtml, sameFrame } from "./frames";
import { CANVAS_CSS } from "./style";

type Drawn = Pick<ComposerState, "email" | "reader" | "facts" | "dark" | "trial">;

/** What all blocks depend on beside themselves: the theme first. */
type Circumstances = readonly unknown[];

/** How long in a frame blocks are drawn that nobody sees, in milliseconds. */
const UNSEEN = 8;

/** How long they wait at first, in milliseconds: whoever goes along the themes is past the first by then. */
const LATER = 80;

interface How {
  /** As on a phone. */
  narrow: boolean;
  /** The block that is kept as it stands because its words are being written there. */
  kept?: string | null;
}

interface DrawnBlock {
  block: Block;
  around: Surroundings;
  html: string;
  /** The dark colours that it names. */
  tones: ReadonlySet<string>;
  element: HTMLElement;
  /** What it was drawn under. */
  under: Circumstances;
  /** Whether it stands there as it was before words were written in it. */
  stale?: boolean;
}

/**
 * The canvas: the renderer's own HTML in a shadow root, frame first, then each block in its slot. On a change only
 * what differs is replaced: a keystroke touches one block, or none while its own editor stands there.
 */
export class Drawing {
  private readonly style = document.createElement("style");
  private readonly body = document.createElement("div");
  private frame = "";
  private circumstances: Circumstances = [];
  private catchUp = 0;
  private blocks = new Map<string, DrawnBlock>();
  /** The elements of all nodes, found once after each change. */
  private nodes: Map<string, HTMLElement> | null = null;

  constructor(readonly root: ShadowRoot) {
    this.body.className = "canvas";
    root.replaceChildren(this.style, this.body);
  }

  /**
   * Draws what differs from last time. In another theme what is in view is drawn at once, the rest in the frames after.
   * @param late where this is the drawing of the rest: the blocks that were not in view
   */
  draw(state: Drawn, how: How, late?: ReadonlySet<string>): void {
    clearTimeout(this.catchUp);
    this.nodes = null;
    const { narrow, kept = null } = how;
    const { facts, reader } = state;
    const email = shownEmail(state);
    const theme = shownTheme(state);
    const options: CompileOptions = { ...facts.tags, theme, brand: facts.brand, origin: "" };
    const world: World = { content: facts.content, audience: facts.audience };
    const circumstances = [theme, reader, facts, email.language, email.links];
    const changed = circumstances.map((one, index) => one !== this.circumstances[index]);
    const same = !changed.includes(true);
    if (!same) this.circumstances = circumstances;
    const under = this.circumstances;
    const unseen = late ?? (changed.lastIndexOf(true) === 0 ? this.unseen() : null);
    const until = late ? performance.now() + UNSEEN : 0;
    let behind = false;

    this.body.style.background = state.dark ? theme.dark.table : theme.light.table;

    const someone = readerOf(reader, email.language, previewAddresses(""));
    const { surroundings, tones: framed, ...part } = compileFrame(email, options);
    const tones = new Set(framed);
    const bound = bindPart(part, world);
    const frame = run(bound.code, bound, someone);

    const elements = new Map<string, HTMLElement>();
    for (const block of blocksOf(email)) {
      const around = surroundings.get(block.id);
      if (!around) continue;
      const known = this.blocks.get(block.id);
      if (known && kept === block.id) {
        elements.set(block.id, known.element);
        continue;
      }
      if (known && !known.stale && known.block === block) {
        const settled = known.under === under && sameAround(known.around, around);
        const waits = !settled && unseen?.has(block.id) && performance.now() >= until;
        behind ||= waits === true;
        if (settled || waits) {
          elements.set(block.id, known.element);
          continue;
        }
      }
      const { tones, ...compiled } = compileBlock(block, around, email, options);
      const piece = bindPart(compiled, world);
      const html = run(piece.code, piece, someone);
      if (known?.html === html && !known.stale) {
        this.blocks.set(block.id, { ...known, block, around, tones, under });
        elements.set(block.id, known.element);
        continue;
      }
      const element = this.rowFor(html, known);
      this.blocks.set(block.id, { block, around, html, tones, element, under });
      elements.set(block.id, element);
    }
    for (const id of this.blocks.keys()) if (!elements.has(id)) this.blocks.delete(id);
    for (const { tones: own } of this.blocks.values()) for (const name of own) tones.add(name);
    const css = `${CANVAS_CSS}${canvasCss(theme, email, tones, { narrow, dark: state.dark, logo: facts.brand.logoDark?.src ?? "" })}`;
    const dressed = this.style.textContent === css;
    if (!dressed) this.style.textContent = css;

    if (frame !== this.frame) {
      this.frame = frame;
      const { content } = parsed(frame);
      const inSlot = (next: Node) =>
        next instanceof HTMLTableRowElement && next.dataset.slot !== undefined
          ? elements.get(next.dataset.slot)
          : undefined;
      if (!patch(this.body, content, (old, next) => old === inSlot(next) && "whole")) {
        for (const slot of content.querySelectorAll<HTMLElement>("[data-slot]")) {
          const element = inSlot(slot);
          if (element) slot.replaceWith(element);
        }
        this.body.replaceChildren(content);
      }
    }
    if (!same || !dressed || (late && !behind)) dressFrames(this.body);
    if (behind)
      this.catchUp = window.setTimeout(() => this.draw(state, how, unseen ?? undefined), late ? 0 : LATER);
  }

  /** The blocks that are far from the window. */
  private unseen(): Set<string> {
    const margin = 200;
    const far = new Set<string>();
    for (const [id, { element }] of this.blocks) {
      const { top, bottom } = element.getBoundingClientRect();
      if (bottom < -margin || top > window.innerHeight + margin) far.add(id);
    }
    return far;
  }

  /** The element of a block drawn anew: the one that stands there, where it only has to change its looks. */
  private rowFor(html: string, known: DrawnBlock | undefined): HTMLElement {
    const row = parsedRow(html);
    if (known && !known.stale && patch(known.element, row, sameFrame)) return known.element;
    frameOwnHtml(row, known?.element);
    known?.element.replaceWith(row);
    return row;
  }

  /** Draws a block anew although its document is the same: after its editor has gone. */
  forget(id: string): void {
    const known = this.blocks.get(id);
    if (!known) return;
    const element = parsedRow(known.html);
    frameOwnHtml(element);
    this.nodes = null;
    known.element.replaceWith(element);
    this.blocks.set(id, { ...known, element, stale: true });
  }

  /** The element of a node, or null when this reader does not get it. */
  element(id: string): HTMLElement | null {
    if (!this.nodes) {
      this.nodes = new Map();
      for (const element of this.body.querySelectorAll<HTMLElement>("[data-node]"))
        this.nodes.set(element.dataset.node ?? "", element);
    }
    return this.nodes.get(id) ?? null;
  }

  /** Where parts stand that this reader does not get. */
  hidden(): { id: string; element: HTMLElement }[] {
    return [...this.body.querySelectorAll<HTMLElement>("[data-hidden]")].map((element) => ({
      id: element.dataset.hidden ?? "",
      element,
    }));
  }

  /** Which words of a block are meant by a press inside it: those under it, or its first; undefined without any. */
  wordsAt(path: readonly EventTarget[], id: string): string | undefined {
    const cell = this.element(id);
    const under = path.find((target) => target instanceof HTMLElement && target.dataset.edit !== undefined);
    const place =
      under && cell?.contains(under as HTMLElement)
        ? (under as HTMLElement)
        : cell?.querySelector<HTMLElement>("[data-edit]");
    return place?.dataset.edit;
  }

  /** The paths of all words of a block that can be edited, in reading order. */
  wordsOf(id: string): string[] {
    const places = this.element(id)?.querySelectorAll<HTMLElement>("[data-edit]") ?? [];
    return [...places].map((place) => place.dataset.edit ?? "");
  }

  /** The ids of the nodes under a point of the window, innermost first. */
  nodesAt(path: readonly EventTarget[]): { id: string; kind: string }[] {
    return path
      .filter(
        (target): target is HTMLElement => target instanceof HTMLElement && target.dataset.node !== undefined,
      )
      .map((element) => ({ id: element.dataset.node ?? "", kind: element.dataset.kind ?? "" }));
  }
}

function sameAround(a: Surroundings, b: Surroundings): boolean {
  return (
    a.width === b.width &&
    same(a.levels, b.levels) &&
    a.ground.light === b.ground.light &&
    a.ground.dark === b.ground.dark
  );
}

function parsed(html: string): HTMLTemplateElement {
  const template = document.createElement("template");
  template.innerHTML = html;
  return template;
}

function parsedRow(html: string): HTMLElement {
  const row = parsed(html).content.firstElementChild as HTMLElement;
  // Whoever goes through the composer by keys walks blocks, not the email's own links.
  for (const link of row.querySelectorAll<HTMLElement>("a[href]")) link.tabIndex = -1;
  return row;
}
