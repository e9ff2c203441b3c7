import { type ChildNode, Element, isTag, isText } from "domhandler";
import type { Inline } from "../email";
import type { Band, Bit, Side } from "./bits";
import { holdsBlock, isBlock, rowsOf, within, wordsIn } from "./dom";
import { lineOf, partsOf } from "./lines";
import { listOf, paragraphsIn } from "./lists";
import {
  declarations,
  FIRST_LOOK,
  groundOf,
  isHidden,
  type Look,
  lengthOf,
  lookInside,
  pictureBehind,
  sidePadding,
} from "./look";
import { isEmpty, isNothing, isRule, isSign, ruleOf } from "./nothing";
import { floatedIn, GAP, heightOf, layersOf, linesOf, onPicture, overlaidIn } from "./placed";
import { buttonIn, commonLook, factsIn, menuIn, menuLook, safe, socialIn, socialOf } from "./recognise";
import { besides, isTurned, ownWidth, saysPx, sharesOf, USUAL_WIDTH, WIDEST } from "./widths";

/** Where things are put: at the top of a letter, or in one of its columns. */
interface Around {
  look: Look;
  /** What the parts of the letter stand on, from one side of the window to the other. */
  outer: string;
  /** How wide it is, in px. */
  width: number;
  /** Whether columns can stand here. */
  top: boolean;
  /** Whether it is within the letter's own width: what stands on the whole window is not. */
  contained: boolean;
  href?: string;
  picture?: string;
}

/** What is noticed on the way, for what is said of it. */
export interface Noticed {
  counters: number;
  nested: number;
  fields: number;
  /** The colours of links within words. */
  links: string[];
}

/** Takes the body of a letter apart, from top to bottom. `vml` are buttons that only comments hold. */
export class Reader {
  readonly bands: Band[] = [];
  readonly noticed: Noticed = { counters: 0, nested: 0, fields: 0, links: [] };
  /** The bits of the column that is being read; those of the letter itself otherwise. */
  private column: Bit[] | null = null;
  /** How wide the letter says that it is, in px. */
  width: number | null = null;

  read(body: Element): void {
    const look = lookInside(body, FIRST_LOOK);
    this.walk(body.children, { look, outer: look.ground, width: USUAL_WIDTH, top: true, contained: false });
  }

  private add(bit: Bit, place: Around): void {
    if (this.column) {
      this.column.push(bit);
      return;
    }
    const last = this.bands.at(-1);
    const picture = place.picture ?? null;
    if (
      last &&
      last.sides.length === 1 &&
      last.ground === place.look.ground &&
      last.outer === place.outer &&
      last.picture === picture
    )
      last.sides[0].bits.push(bit);
    else
      this.bands.push({
        ground: place.look.ground,
        outer: place.outer,
        picture,
        sides: [{ share: 100, ground: null, bits: [bit] }],
      });
  }

  /** Reads what stands in an element: blocks one by one, and the words between them as lines. */
  private walk(nodes: readonly ChildNode[], place: Around): void {
    let loose: ChildNode[] = [];
    const flush = () => {
      const line = loose;
      loose = [];
      if (line.length > 0) this.line(line, place);
    };
    const children = [...nodes];
    for (let at = 0; at < children.length; at++) {
      const node = children[at];
      if (isText(node)) loose.push(node);
      if (!isTag(node) || isHidden(node)) continue;
      if (/^(script|style|template|noscript|head|title|meta|link)$/.test(node.name)) continue;
      const beside = besides(children, at);
      if (beside.length > 1) {
        flush();
        this.columns(beside, place);
        at = children.indexOf(beside.at(-1)!.element);
        continue;
      }
      const around = floatedIn(node, place.width);
      const rest = children.slice(at + 1);
      if (around && place.top && !this.column && wordsIn(rest) !== "") {
        flush();
        const words = { element: new Element("div", {}, rest), width: null };
        const picture = { element: new Element("div", {}, [node]), width: around.width + GAP };
        this.columns(around.side === "left" ? [picture, words] : [words, picture], place);
        return;
      }
      if (node.name === "img") {
        // Within words it is one of them.
        if (loose.some((one) => wordsIn([one]) !== "") && isSign(node)) loose.push(node);
        else {
          flush();
          this.image(node, place);
        }
      } else if (node.name === "br") loose.push(node);
      else if (isBlock(node) || holdsBlock(node) || this.isButton(node, place)) {
        flush();
        this.element(node, place);
      } else loose.push(node);
    }
    flush();
  }

  /** A line of words that stands by itself. */
  private line(nodes: readonly ChildNode[], place: Around): void {
    const look = commonLook(nodes, place.look);
    const content = lineOf(nodes, look, { look: place.look, marks: linkMark(place.href) });
    for (const link of nodes.flatMap((node) =>
      isTag(node) ? (node.name === "a" ? [node] : within(node, ({ name }) => name === "a")) : [],
    ))
      this.noticed.links.push(commonLook(link.children, lookInside(link, place.look)).color);
    for (const part of partsOf(content, look)) this.add({ kind: "line", level: null, ...part }, place);
  }

  private element(it: Element, around: Around): void {
    const place = this.aroundIn(it, around);
    const { name } = it;
    const social = socialIn(it);
    if (social && (name === "table" || name === "tr" || name === "td" || name === "div" || name === "p")) {
      this.add({ kind: "social", ...social, look: place.look }, place);
      return;
    }
    if (this.isButton(it, around)) {
      this.button(it, around);
      return;
    }
    const laid = overlaidIn(it);
    if (laid) {
      this.overlaid(laid.picture, laid.words, place);
      return;
    }
    switch (name) {
      case "h1":
      case "h2":
      case "h3":
      case "h4":
      case "h5":
      case "h6": {
        if (holdsBlock(it)) {
          this.walk(it.children, place);
          return;
        }
        const look = commonLook(it.children, place.look);
        const content = lineOf(it.children, look, { look: place.look, marks: linkMark(place.href) });
        if (content.length > 0)
          this.add({ kind: "line", content, level: Math.min(3, Number(name[1])), look }, place);
        return;
      }
      case "hr":
        this.add({ kind: "divider", color: null, thickness: 1, look: place.look }, place);
        return;
      case "ul":
      case "ol": {
        const list = listOf(it, place.look);
        if (list) this.add({ kind: "words", nodes: [list], look: place.look }, place);
        return;
      }
      case "blockquote": {
        const nodes = paragraphsIn(it, place.look);
        if (nodes.length > 0) this.add({ kind: "quote", nodes, look: place.look }, place);
        return;
      }
      case "table":
        this.table(it, place);
        return;
      case "form":
      case "fieldset":
        this.noticed.fields += 1;
        this.walk(it.children, place);
        return;
      case "a":
        this.walk(it.children, { ...place, href: safe(it.attribs.href) ?? place.href });
        return;
      default:
        if (isRule(it)) {
          const [, color] = ruleOf(it) ?? [];
          this.add({ kind: "divider", color: color ?? null, thickness: 1, look: place.look }, place);
          return;
        }
        for (const row of linesOf(it)) {
          if (row.length > 1)
            this.columns(
              row.map((element) => ({ element, width: ownWidth(element, place.width) })),
              place,
            );
          else this.walk(row[0] === it ? it.children : row, place);
        }
    }
  }

  /** What an element changes for all that stands in it. */
  private aroundIn(it: Element, around: Around): Around {
    const look = lookInside(it, around.look);
    const style = declarations(it);
    const says = !around.contained && saysPx(it, style);
    const width = ownWidth(it, says ? WIDEST : around.width) ?? around.width;
    if (says && width >= 320) this.width = Math.max(this.width ?? 0, width);
    const picture = pictureBehind(it, style) ?? around.picture;
    // Whatever is as wide as the window changes what is behind all of it.
    const contained = around.contained || saysPx(it, style);
    const whole = look.ground !== around.look.ground && !contained;
    return {
      ...around,
      look,
      width: Math.max(40, (says ? width : Math.min(width, around.width)) - sidePadding(style, around.width)),
      ...(picture !== undefined && { picture }),
      contained,
      outer: whole ? look.ground : around.outer,
    };
  }

  private table(it: Element, place: Around): void {
    const facts = factsIn(it, place.look);
    if (facts) {
      this.add({ kind: "table", ...facts, look: place.look }, place);
      return;
    }
    for (const { row, cells } of rowsOf(it)) {
      const within = this.aroundIn(row, place);
      const menu = menuIn(cells);
      const full = cells.filter((cell) => !isEmpty(cell));
      if (menu) this.add({ kind: "menu", items: menu, look: menuLook(full[0], within.look) }, within);
      else if (full.length > 1)
        this.columns(
          full.map((element) => ({ element, width: ownWidth(element, within.width) })),
          within,
        );
      else for (const cell of full.length === 1 ? full : cells) this.element(cell, within);
    }
  }

  /** Things that stand side by side. Inside a column there is no room for more of them: there they stack. */
  private columns(parts: readonly { element: Element; width: number | null }[], place: Around): void {
    const social = socialOf(parts.map(({ element }) => element));
    if (social) {
      this.add({ kind: "social", ...social, look: place.look }, place);
      return;
    }
    if (this.column || parts.length > 6 || !place.top) {
      if (parts.length > 1) this.noticed.nested += 1;
      for (const { element } of parts) this.element(element, place);
      return;
    }
    const inOrder = isTurned(parts.map(({ element }) => element)) ? parts.toReversed() : parts;
    const shares = sharesOf(
      inOrder.map(({ width }) => width),
      place.width,
    );
    const sides = inOrder.map(({ element }, index): Side => {
      const bits: Bit[] = [];
      this.column = bits;
      const inside = this.isButton(element, place) ? [element] : layersOf(element);
      const behind = <T>(of: (one: Element, style: Map<string, string>) => T | null): T | null =>
        inside.map((one) => of(one, declarations(one))).find((found) => found !== null) ?? null;
      const ground = behind(groundOf);
      const width = (place.width * shares[index]) / 100;
      this.element(element, { ...place, width, top: false, picture: undefined });
      this.column = null;
      const picture = behind(pictureBehind);
      return {
        share: shares[index],
        ground: ground === place.look.ground || picture !== null ? null : ground,
        bits: picture === null ? bits : onPicture(picture, bits, behind(heightOf)),
      };
    });
    const full = sides.filter(({ bits }) => bits.length > 0);
    if (full.length === 0) return;
    if (full.length === 1) {
      for (const bit of full[0].bits) this.add(bit, place);
      return;
    }
    this.bands.push({
      ground: place.look.ground,
      outer: place.outer,
      picture: place.picture ?? null,
      sides: full,
    });
  }

  private image(it: Element, place: Around): void {
    const style = declarations(it);
    const { src = "", alt = "" } = it.attribs;
    const width = lengthOf(style.get("width"), place.width) ?? lengthOf(it.attribs.width, place.width);
    const height = lengthOf(style.get("height"), place.width) ?? lengthOf(it.attribs.height, place.width);
    if (isNothing(it)) {
      this.noticed.counters += 1;
      return;
    }
    const most = lengthOf(style.get("max-width"), place.width);
    const attribute = lengthOf(it.attribs.width, place.width);
    const shown = Math.min(place.width, width ?? place.width, most ?? place.width, attribute ?? place.width);
    const href =
      safe(it.parent && isTag(it.parent) && it.parent.name === "a" ? it.parent.attribs.href : undefined) ??
      place.href;
    this.add(
      {
        kind: "image",
        src: src.trim(),
        alt: alt.trim().slice(0, 500),
        ...(href && { href }),
        width: Math.round(attribute ?? shown),
        height: height === null ? null : Math.round(height),
        share: Math.max(5, Math.min(100, Math.round((shown / place.width) * 100))),
        radius: lengthOf(style.get("border-radius"), shown) ?? 0,
        edges: this.column === null && shown >= (this.width ?? USUAL_WIDTH) * 0.97,
        look: place.look,
      },
      place,
    );
  }

  /** Words that are placed on a picture. */
  private overlaid(picture: Element, words: readonly Element[], place: Around): void {
    const { src = "", alt = "" } = picture.attribs;
    const [width, height] = ["width", "height"].map((side) => lengthOf(picture.attribs[side], place.width));
    const look = commonLook(words[0].children, lookInside(words[0], place.look));
    this.add(
      {
        kind: "overlaid",
        src: src.trim(),
        alt: alt.trim().slice(0, 500),
        natural: width && height ? { width, height } : null,
        height: null,
        words: [{ kind: "words", nodes: words.flatMap((it) => paragraphsIn(it, place.look)), look }],
        look,
      },
      place,
    );
  }

  /** Whether something is a link that looks like a button: with a face or an edge of its own around a few words. */
  private isButton(it: Element, place: Around): boolean {
    return buttonIn(it, place.look) !== null;
  }

  private button(it: Element, place: Around): void {
    const found = buttonIn(it, place.look);
    if (!found) return;
    const look = lookInside(found.link, found.look);
    // Where it stands is said around it, not in it.
    const align = lookInside(it, place.look).align;
    const side =
      it.name === "table" && /^(left|center|right)$/.test(it.attribs.align ?? "")
        ? (it.attribs.align as Look["align"])
        : it.name === "a" || it.name === "table"
          ? place.look.align
          : align;
    const inner = commonLook(found.link.children, look);
    this.add(
      {
        kind: "button",
        content: plainWords(lineOf(found.link.children, inner)),
        href: found.href,
        face: found.face,
        radius: found.radius,
        edge: found.edge,
        look: { ...inner, align: side },
      },
      place,
    );
  }
}

const linkMark = (href: string | undefined) => (href ? [{ type: "link" as const, attrs: { href } }] : []);

/** The words of a button: all of it is the link, and all of it is as bold as the theme says. */
function plainWords(content: readonly Inline[]): Inline[] {
  return content.map((it): Inline => {
    if (it.type !== "text") return it;
    const marks = it.marks?.filter(({ type }) => type === "italic" || type === "strike") ?? [];
    return marks.length > 0 ? { type: "text", text: it.text, marks } : { type: "text", text: it.text };
  });
}
