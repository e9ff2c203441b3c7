import { type Block, type Email, type Section, same, walkIn } from "~/core/email";
import { bindPart, previewAddresses, readerOf, run } from "~/core/personal";
import {
  type CompileOptions,
  canvasCss,
  compileBlock,
  compileFrame,
  headingLevels,
  type Piece,
  type Standing,
  type Surroundings,
  surroundingsOf,
} from "~/core/render";
import { patch } from "../../ui/patch";
import { shownEmail } from "../state/language";
import { type ComposerState, worldOf } from "../state/store";
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

/** What all pieces of one drawing are made with. */
interface Making {
  email: Email;
  options: CompileOptions;
  under: Circumstances;
  /** What the reader on the canvas gets of a piece. */
  htmlOf(piece: Piece): string;
}

interface DrawnSection {
  section: Section;
  standing: ReadonlyMap<string, Standing>;
  html: string;
  /** The dark colours that it names. */
  tones: ReadonlySet<string>;
  /** What holds it: what changes in it is laid out by itself. */
  element: HTMLElement;
  /** What it was drawn under. */
  under: Circumstances;
}

interface DrawnBlock {
  block: Block;
  around: Surroundings;
  html: string;
  tones: ReadonlySet<string>;
  element: HTMLElement;
  under: Circumstances;
  /** Whether it stands there as it was before words were written in it. */
  stale?: boolean;
}

/**
 * The canvas: the renderer's own HTML in a shadow root, the frame of each section first, then each block in its slot. On
 * a change only what differs is replaced: a keystroke touches one section, and no block while its own editor stands there.
 */
export class Drawing {
  private readonly style = document.createElement("style");
  private readonly body = document.createElement("div");
  private circumstances: Circumstances = [];
  private catchUp = 0;
  private sections = new Map<string, DrawnSection>();
  private blocks = new Map<string, DrawnBlock>();
  /** The elements of all nodes, found once after each change of them. */
  private nodes: Map<string, HTMLElement> | null = null;

  constructor(readonly root: ShadowRoot) {
    this.body.className = "canvas";
    root.replaceChildren(this.style, this.body);
  }

  /**
   * Draws what differs from last time. In another theme what is in view is drawn at once, the rest in the frames after.
   * @param late where this is the drawing of the rest: the sections and blocks that were not in view
   */
  draw(state: Drawn, how: How, late?: ReadonlySet<string>): void {
    clearTimeout(this.catchUp);
    const { narrow, kept = null } = how;
    const { facts, reader } = state;
    const email = shownEmail(state);
    const theme = shownTheme(state);
    const { today } = facts.audience;
    const options: CompileOptions = { ...facts.tags, theme, brand: facts.brand, origin: "", today };
    const world = worldOf(facts);
    const circumstances = [theme, reader, facts, email.language, email.links, email.envelope.sender];
    const changed = circumstances.map((one, index) => one !== this.circumstances[index]);
    const same = !changed.includes(true);
    if (!same) this.circumstances = circumstances;
    const under = this.circumstances;
    const unseen = late ?? (changed.lastIndexOf(true) === 0 ? this.unseen() : null);
    const until = late ? performance.now() + UNSEEN : 0;
    let behind = false;
    /** Whether something that is not as it is to be waits for a frame to come. */
    const waits = (id: string) => {
      const put = unseen?.has(id) === true && performance.now() >= until;
      behind ||= put;
      return put;
    };

    this.body.style.background = state.dark ? theme.dark.table : theme.light.table;

    const someone = readerOf(reader, email.language, previewAddresses(""));
    const making: Making = {
      email,
      options,
      under,
      htmlOf(piece) {
        const bound = bindPart(piece, world);
        return run(bound.code, bound, someone);
      },
    };
    const levels = headingLevels(email);
    const elements = new Map<string, HTMLElement>();
    const sections = new Map<string, DrawnSection>();
    const anew = new Set<string>();
    for (const section of email.sections) {
      const known = this.sections.get(section.id);
      const settled = known?.section === section && known.under === under;
      const drawn =
        known && (settled || (known.section === section && waits(section.id)))
          ? known
          : this.sectionDrawn(section, making);
      sections.set(section.id, drawn);
      if (drawn.html !== known?.html) anew.add(section.id);
      for (const it of walkIn({ kind: "section", node: section })) {
        const standing = it.kind === "block" && drawn.standing.get(it.node.id);
        if (it.kind !== "block" || !standing) continue;
        const block = it.node;
        const around = surroundingsOf(block.id, standing, levels);
        const before = this.blocks.get(block.id);
        const asItIs =
          before &&
          (kept === block.id ||
            (!before.stale &&
              before.block === block &&
              ((before.under === under && sameAround(before.around, around)) || waits(block.id))));
        elements.set(block.id, asItIs ? before.element : this.blockDrawn(block, around, making));
      }
    }
    for (const id of this.blocks.keys()) if (!elements.has(id)) this.blocks.delete(id);
    this.sections = sections;

    const tones = new Set<string>();
    for (const { tones: own } of [...sections.values(), ...this.blocks.values()])
      for (const name of own) tones.add(name);
    const css = `${CANVAS_CSS}${canvasCss(theme, email, tones, { narrow, dark: state.dark, logo: facts.brand.logoDark?.src ?? "" })}`;
    const dressed = this.style.textContent === css;
    if (!dressed) this.style.textContent = css;

    for (const id of anew) {
      const drawn = sections.get(id);
      if (drawn) fill(drawn, elements);
      this.nodes = null;
    }
    this.inOrder([...sections.values()].map(({ element }) => element));
    if (!same || !dressed || (late && !behind)) dressFrames(this.body);
    if (behind)
      this.catchUp = window.setTimeout(() => this.draw(state, how, unseen ?? undefined), late ? 0 : LATER);
  }

  /** A section as it is to be; what is in its element follows. */
  private sectionDrawn(section: Section, { email, options, under, htmlOf }: Making): DrawnSection {
    const piece = compileFrame(section, email, options);
    const element = this.sections.get(section.id)?.element ?? document.createElement("div");
    element.className = "section";
    const { standing, tones } = piece;
    return { section, standing, tones, html: htmlOf(piece), element, under };
  }

  /** The element of a block as it is to be. */
  private blockDrawn(
    block: Block,
    around: Surroundings,
    { email, options, under, htmlOf }: Making,
  ): HTMLElement {
    const known = this.blocks.get(block.id);
    const piece = compileBlock(block, around, email, options);
    const html = htmlOf(piece);
    const element = known?.html === html && !known.stale ? known.element : this.rowFor(html, known);
    this.blocks.set(block.id, { block, around, html, tones: piece.tones, element, under });
    return element;
  }

  /** Brings the sections into their order; those that are gone go. */
  private inOrder(wanted: readonly HTMLElement[]): void {
    for (const [at, element] of wanted.entries()) {
      const there = this.body.children[at] as Element | undefined;
      if (there === element) continue;
      this.nodes = null;
      // Where one is gone the next has its place: whatever moves is drawn anew by the browser, frames above all.
      if (there && there.nextElementSibling === element && !wanted.includes(there as HTMLElement))
        there.remove();
      else this.body.insertBefore(element, there ?? null);
    }
    while (this.body.children.length > wanted.length) {
      this.body.lastElementChild?.remove();
      this.nodes = null;
    }
  }

  /** The sections and blocks that are far from the window. */
  private unseen(): Set<string> {
    const margin = 200;
    const far = new Set<string>();
    for (const [id, { element }] of [...this.sections, ...this.blocks]) {
      const { top, bottom } = element.getBoundingClientRect();
      if (bottom < -margin || top > window.innerHeight + margin) far.add(id);
    }
    return far;
  }

  /** The element of a block drawn anew: the one that stands there, where it only has to change its looks. */
  private rowFor(html: string, known: DrawnBlock | undefined): HTMLElement {
    const row = parsedRow(html);
    if (known && !known.stale && patch(known.element, row, sameFrame)) return known.element;
    this.nodes = null;
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

/** Puts what a section is to be into its element, with the blocks in their slots; what is of the same shape stays. */
function fill({ element, html }: DrawnSection, blocks: ReadonlyMap<string, HTMLElement>): void {
  const { content } = parsed(html);
  const inSlot = (next: Node) =>
    next instanceof HTMLTableRowElement && next.dataset.slot !== undefined
      ? blocks.get(next.dataset.slot)
      : undefined;
  if (patch(element, content, (old, next) => old === inSlot(next) && "whole")) return;
  for (const slot of content.querySelectorAll<HTMLElement>("[data-slot]")) {
    const row = inSlot(slot);
    if (row) slot.replaceWith(row);
  }
  element.replaceChildren(content);
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
