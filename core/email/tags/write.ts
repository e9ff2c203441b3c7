import type { Rule } from "../../audience";
import { collapse, isSafeHref, type Sink, type Slot, type Writer, written } from "../../program";
import { constantOf, type Known } from "./known";
import { type LookupValue, lookupNamed } from "./lookup";
import type { MergeTag } from "./tag";
import { readTyped } from "./typed";

/** Where typed words land: each sink, and an address of HTML or of the text part, of which a tag is the whole or a piece. */
export type Landing = Exclude<Sink, "href" | "url" | "component"> | "link" | "textLink" | "piece";

const SINKS: Partial<Record<Landing, Sink>> = { link: "href", textLink: "url", piece: "component" };

interface Around {
  known: Known;
  out: Writer;
  /** Whether it is written for a lookup: that asks no other. */
  within?: boolean;
}

/** Words that are the same for all who get them. */
const said = (text: string, sink: Sink, { known }: Around) => written(text, sink, known.origin);

/** Writes what a tag stands for. */
export function writeTag(tag: MergeTag, sink: Sink, around: Around): void {
  const { known, out, within } = around;
  const same = constantOf(tag, known);
  if (same !== undefined) {
    out.raw(said(collapse(same), sink, around));
    return;
  }
  const found = within ? null : lookupNamed(tag.field, known.lookups);
  if (found) {
    const { lookup, part } = found;
    const say = (value: string | undefined) => {
      if (value === undefined || value.trim() === "") out.raw(said(tag.fallback, sink, around));
      else writePieces(value, sink, { ...around, within: true });
    };
    out.either(
      lookup.cases.map(({ when, value }) => ({ when, body: () => say(value[part]) })),
      () => say(lookup.otherwise[part]),
    );
    return;
  }
  out.value(slotOf(tag, sink, known));
}

/** A tag as a value that differs from reader to reader. */
function slotOf(tag: MergeTag, sink: Sink, known: Known): Slot {
  const example = tag.field.startsWith("code.")
    ? known.codes?.find(({ key }) => `code.${key}` === tag.field)?.example
    : undefined;
  return {
    ...tag,
    sink,
    ...(known.language !== undefined && { language: known.language }),
    ...(example !== undefined && { example }),
    ...(sink === "src" && known.origin && { origin: known.origin }),
  };
}

/** Writes typed words. In an address a tag at its beginning may be the whole of it; any other is one piece. */
function writePieces(text: string, sink: Sink, around: Around): void {
  const address = sink === "href" || sink === "url";
  const { pieces } = readTyped(text);
  const begin = pieces[0];
  const safe = !address || typeof begin !== "string" || isSafeHref(begin);
  if (!safe) {
    around.out.raw("#");
    return;
  }
  for (const [index, piece] of pieces.entries()) {
    if (typeof piece !== "string") writeTag(piece, address && index > 0 ? "component" : sink, around);
    else if (address) around.out.raw(written(piece, sink === "href" ? "attribute" : "text"));
    else around.out.raw(said(piece, sink, around));
  }
}

/**
 * Typed words as a string for a writer's `raw`: tags are marks in it, which the writer puts their values in place of.
 * Without tags it is the words themselves, made safe.
 */
export function typedString(
  text: string,
  landing: Landing,
  { known, out }: { known: Known; out: Writer },
): string {
  const sink = SINKS[landing] ?? (landing as Sink);
  if (!text.includes("{$")) return said(text, sink, { known, out });
  const words = sink === "href" || sink === "url" ? text.trim() : text;
  return out.pool.insert((inner) => writePieces(words, sink, { known, out: inner }));
}

/**
 * Writes `body` for the readers for whom an address leads somewhere, `otherwise` for the rest: one that is a tag as a
 * whole may be empty for a reader. Of any other the designer decides.
 */
export function whenAddress(
  text: string,
  landing: "src" | "link" | "textLink",
  around: Around,
  body: () => void,
  otherwise?: () => void,
): void {
  const sink = SINKS[landing] ?? (landing as Sink);
  around.out.whether(waysOf(text, sink, around), body, otherwise);
}

/** Whether an address leads somewhere, by what decides it. */
function waysOf(text: string, sink: Sink, around: Around): { when?: Rule; there: boolean | Slot }[] {
  const { pieces } = readTyped(text.trim());
  const [tag] = pieces;
  const { known, within } = around;
  const there = (words: string) => !["", "#"].includes(said(collapse(words), sink, around));
  if (pieces.length !== 1 || typeof tag === "string") return [{ there: !within || there(text) }];
  const same = constantOf(tag, known);
  if (same !== undefined) return [{ there: there(same) }];
  const found = within ? null : lookupNamed(tag.field, known.lookups);
  if (!found) return [{ there: there(tag.fallback) || slotOf(tag, sink, known) }];
  const { lookup, part } = found;
  const way = (value: LookupValue) => {
    const [only] = waysOf(value[part]?.trim() || tag.fallback, sink, { ...around, within: true });
    return only.there;
  };
  return [
    ...lookup.cases.map(({ when, value }) => ({ when, there: way(value) })),
    { there: way(lookup.otherwise) },
  ];
}
