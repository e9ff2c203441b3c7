/** What a design names of its workspace, and the same design where some of it is called otherwise or left out. */
import { type Rule, RuleSchema } from "../audience";
import { blockType } from "../blocks";
import {
  asksReader,
  type Block,
  CHILDREN,
  type Email,
  type Inline,
  type MergeTag,
  readTyped,
  remembered,
  same,
  typedTag,
  typedWords,
} from "../email";

const NAMED_KINDS = ["field", "list", "segment", "lookup", "code", "source"] as const;
export type NamedKind = (typeof NAMED_KINDS)[number];

/** All that something kept can refer to. A picture is referred to by its file. */
const MENTION_KINDS = [...NAMED_KINDS, "campaign", "clipping", "picture", "theme"] as const;
export type MentionKind = (typeof MENTION_KINDS)[number];

/** Something that is named: its kind and what it is called there, and how often. */
export interface Named extends Mention {
  kind: NamedKind;
  count: number;
}

/** One thing that is referred to. */
export interface Mention {
  kind: MentionKind;
  key: string;
}

/** What becomes of what is named, by `kind key`: it is called otherwise, or left out. */
export type Renaming = ReadonlyMap<string, string | null>;
export const namedKey = ({ kind, key }: Mention): string => `${kind} ${key}`;

/** What a tag's field names; what it names is followed by the rest of it. */
function fieldNames(field: string): { kind: NamedKind; key: string; rest: string } | null {
  const [first, second, ...parts] = field.split(".");
  if (first === "lookup" || first === "code")
    return { kind: first, key: second ?? "", rest: parts.map((part) => `.${part}`).join("") };
  return asksReader(field) ? { kind: "field", key: field, rest: "" } : null;
}
const fieldFrom = (kind: NamedKind, key: string, rest: string) =>
  kind === "lookup" || kind === "code" ? `${kind}.${key}${rest}` : key;

/** Goes through a design and does to each name what it is told to; what is left out goes with what it decides about. */
class Renamer {
  readonly found = new Map<string, Mention & { count: number }>();

  constructor(private readonly to: Renaming) {}

  /** What something is called from now on; null where it is left out. */
  private named(kind: MentionKind, key: string): string | null {
    this.count({ kind, key, count: 1 });
    const next = this.to.get(namedKey({ kind, key }));
    return next === undefined ? key : next;
  }

  private count({ kind, key, count }: Mention & { count: number }): void {
    const known = this.found.get(namedKey({ kind, key }))?.count ?? 0;
    this.found.set(namedKey({ kind, key }), { kind, key, count: known + count });
  }

  private field(field: string): string | null {
    const names = fieldNames(field);
    if (!names) return field;
    const next = this.named(names.kind, names.key);
    return next === null ? null : fieldFrom(names.kind, next, names.rest);
  }

  /** A tag with its names; null where it is left out, so that its fallback stands there. */
  private tag(tag: MergeTag): MergeTag | null {
    const field = this.field(tag.field);
    if (tag.of) {
      const source = this.named("source", tag.of.source);
      return source === null ? null : { ...tag, of: { ...tag.of, source } };
    }
    const { or, ...rest } = tag;
    const other = or === undefined ? undefined : (this.field(or) ?? undefined);
    if (field === null) return other === undefined ? null : { ...rest, field: other };
    return { ...rest, field, ...(other !== undefined && { or: other }) };
  }

  private typed(text: string): string {
    if (!text.includes("{$")) return text;
    const { pieces } = readTyped(text);
    const next = pieces.map((piece) => (typeof piece === "string" ? piece : this.tag(piece)));
    // What is not changed stays as it was typed, to the sign.
    if (next.every((piece, at) => same(piece, pieces[at]))) return text;
    return next
      .map((piece, at) => {
        if (typeof piece === "string") return typedWords(piece);
        return piece ? typedTag(piece) : typedWords((pieces[at] as MergeTag).fallback);
      })
      .join("");
  }

  /** A rule with its names; null where any of them is left out: who meets it nobody could say. */
  private rule(rule: Rule): Rule | null {
    if ("of" in rule) {
      const of = rule.of.map((one) => this.rule(one));
      return of.includes(null) ? null : { ...rule, of: of as Rule[] };
    }
    const renamed = <K extends string>(kind: MentionKind, key: K) => {
      const next = this.named(kind, (rule as unknown as Record<K, string>)[key]);
      return next === null ? null : ({ ...rule, [key]: next } as Rule);
    };
    if (rule.kind === "field") return renamed("field", "field");
    if (rule.kind === "list") return renamed("list", "list");
    if (rule.kind === "segment") return renamed("segment", "segment");
    if (rule.kind === "did" && "campaign" in rule && rule.campaign !== undefined)
      return renamed("campaign", "campaign");
    return rule;
  }

  private inline(it: Inline): Inline[] {
    if (it.type === "mergeTag") {
      const attrs = this.tag(it.attrs);
      const { marks } = it;
      if (attrs) return [{ ...it, attrs }];
      return it.attrs.fallback === ""
        ? []
        : [{ type: "text", text: it.attrs.fallback, ...(marks && { marks }) }];
    }
    if (it.type !== "either") return [it];
    const cases = it.attrs.cases.flatMap(({ when, words }) => {
      const rule = this.rule(when);
      const said = words.flatMap((one) => this.inline(one));
      return rule ? [{ when: rule, words: said }] : [];
    });
    const otherwise = it.attrs.otherwise.flatMap((one) => this.inline(one));
    return cases.length === 0 ? otherwise : [{ ...it, attrs: { cases, otherwise } }];
  }

  /** A value that is a name or holds some: an address, HTML, a tag that was typed. */
  private string(value: string, key: string): string {
    const kind = NAMING[key];
    if (kind) return value === "" ? value : (this.named(kind, value) ?? "");
    // Words are words, whatever they look like.
    if (key === "text") return value;
    for (const file of pictureFiles(value)) this.named("picture", file);
    return this.typed(value);
  }

  /** Anything of a design; what a show rule decides about and whose rule is left out is gone. */
  any(value: unknown, key = ""): unknown {
    if (typeof value === "string") return this.string(value, key);
    if (Array.isArray(value))
      return value.flatMap((one) => {
        if (REMEMBERED.has(key) && this.to.size === 0 && typeof one === "object" && one !== null) {
          for (const named of foundInPart(one)) this.count(named);
          return [one];
        }
        if (isInlineTag(one)) return this.inline(one);
        const next = this.any(one, key);
        return next === GONE ? [] : [next];
      });
    if (typeof value !== "object" || value === null) return value;
    const entries: [string, unknown][] = [];
    for (const [name, inner] of Object.entries(value)) {
      const show = name === "show" ? RuleSchema.safeParse(inner).data : undefined;
      if (show) {
        const rule = this.rule(show);
        if (rule) entries.push([name, rule]);
        // The footer goes to everybody, whatever its rule was.
        else if (!holdsFooter(value)) return GONE;
      } else entries.push([name, this.any(inner, name)]);
    }
    return Object.fromEntries(entries);
  }
}

/** Properties whose value is the key of something. */
const NAMING: Partial<Record<string, MentionKind>> = {
  source: "source",
  batch: "code",
  clipping: "clipping",
  theme: "theme",
};

/** The files of the library that a text names. */
function* pictureFiles(text: string): Generator<string> {
  if (!text.includes("/pictures/")) return;
  for (const [, file] of text.matchAll(/\/pictures\/([\w-]+\.\w+)/g)) yield file;
}

const GONE = Symbol("left out");
const isInlineTag = (it: unknown): it is Inline =>
  typeof it === "object" &&
  it !== null &&
  ["mergeTag", "either"].includes((it as { type?: string }).type ?? "");

function holdsFooter(node: object): boolean {
  if (blockType((node as Block).type)?.fixed) return true;
  return Object.values(CHILDREN).some((down) => {
    const inside = down && (node as Record<string, unknown>)[down.list];
    return Array.isArray(inside) && inside.some(holdsFooter);
  });
}

/** Where the parts stand whose names are found once. */
const REMEMBERED: ReadonlySet<string> = new Set([CHILDREN.email.list, CHILDREN.column.list]);
const foundInPart = remembered((part: object) => foundIn(part));

function foundIn(it: unknown) {
  const renamer = new Renamer(new Map());
  renamer.any(it);
  return [...renamer.found.values()];
}

/** What a design names of its workspace, each once. */
export function namesIn(email: Email): Named[] {
  return foundIn(email).filter((one): one is Named => (NAMED_KINDS as readonly string[]).includes(one.kind));
}

/**
 * All that a design, a part of one, or anything else that is kept refers to, each once.
 * @param it JSON; rules in it stand under `show`
 */
export function mentionsIn(it: unknown): readonly Mention[] {
  return typeof it === "object" && it !== null ? mentionsInObject(it) : foundIn(it);
}
const mentionsInObject = remembered((it: object): readonly Mention[] =>
  foundIn(it).map(({ kind, key }) => ({ kind, key })),
);

/** The files of the library that anything shows, each once. */
export function picturesNamed(it: unknown): string[] {
  return foundIn(it).flatMap(({ kind, key }) => (kind === "picture" ? [key] : []));
}

/**
 * A design where some of what it names is called otherwise or left out: a tag then says its fallback, a part or a case
 * that only some get goes with its rule, and what a source filled is empty.
 */
export function renamed(email: Email, to: Renaming): Email {
  if (to.size === 0) return email;
  return new Renamer(to).any(email) as Email;
}
