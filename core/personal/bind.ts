import { type AudienceContext, type Contact, predicateOrNobody, type Rule } from "../audience";
import type { Item } from "../items";
import type { ListAsk, Picked, PickedList } from "../picking";
import {
  type Code,
  type CountedLink,
  type Instruction,
  type Op,
  type Pool,
  type Program,
  resolve,
  type Slot,
  Writer,
} from "../program";
import { needsFinish } from "./finish";
import { wrapCode } from "./wrap";

/** What a program meets besides its readers. */
export interface World {
  audience: AudienceContext;
  /** What each list of the program picks; nothing when missing. */
  picks?: (ask: ListAsk) => PickedList | undefined;
}

/** A list of a program, and what is written for each item it may pick. */
export interface BoundList {
  ask: ListAsk;
  items: readonly Pick<Item, "id" | "title">[];
  /** What a reader gets, by its place in `items`. */
  pick(contact: Contact): readonly Picked[];
  /** What a variant writes of an item. */
  code(variant: number, item: number): Code;
}

/** A program ready to run: flat code, and one predicate for each distinct rule. */
export interface Bound {
  /** Whether the message is its text and nothing else. */
  only?: "text";
  language: string;
  slots: readonly Slot[];
  rules: readonly ((contact: Contact) => boolean)[];
  /** The same rules as they are written. */
  asked: readonly Rule[];
  subject: Code;
  preheader: Code;
  senderName: Code;
  senderAddress: Code;
  replyTo: Code;
  recipient: Code;
  html: Code;
  text: Code;
  /** The links that are counted, by their places; missing in what was frozen before any were. */
  links?: readonly CountedLink<Code>[];
  /** The lists that are picked for each reader, by their places; missing where there are none. */
  lists?: readonly BoundList[];
  /** Greatest length of a line of the text part in characters; 0 leaves them. */
  textWidth: number;
  /** Whether numbers of links or tables in the text part are settled for each reader. */
  finish: boolean;
}

/** What code is run with. */
export type Runnable = Pick<Bound, "slots" | "rules" | "lists">;

/** All parts of a message, in the order they are asked about; counted links with what they lead to in their place. */
export const partsOf = (bound: Bound): Code[] =>
  [
    bound.subject,
    bound.preheader,
    bound.senderName,
    bound.senderAddress,
    bound.replyTo,
    bound.recipient,
    bound.html,
    bound.text,
  ].map((code) => (bound.links ? withTargets(code, bound.slots, bound.links) : code));

/** Code as it would be if no link were counted. */
function withTargets(code: Code, slots: readonly Slot[], links: readonly CountedLink<Code>[]): Code {
  const ops: Op[] = [];
  const moved: number[] = [];
  const outer: (Op & { to: number })[] = [];
  for (const op of code) {
    const base = ops.length;
    moved.push(base);
    const link = op.op === "value" ? slots[op.slot].link : undefined;
    if (link !== undefined)
      for (const inner of links[link].to) ops.push("to" in inner ? { ...inner, to: inner.to + base } : inner);
    else if ("to" in op) {
      const jump = { ...op };
      outer.push(jump);
      ops.push(jump);
    } else ops.push(op);
  }
  moved.push(ops.length);
  for (const jump of outer) jump.to = moved[jump.to];
  return ops;
}

/**
 * Binds a program to live content and to the segments of the day, once per refresh of the sources. What has a rule that
 * cannot be answered any more is for nobody.
 */
export function bind(program: Program, world: World): Bound {
  // The program stays as it is, whatever it is bound to.
  const pool = program.pool.copy();
  const part = (instructions: Instruction[]) => resolve(instructions);
  const parts = {
    subject: part(program.subject),
    preheader: part(program.preheader),
    senderName: part(program.senderName),
    senderAddress: part(program.senderAddress),
    replyTo: part(program.replyTo),
    recipient: part(program.recipient),
    html: part(program.html),
    text: wrapCode(part(program.text), program.textWidth),
  };
  // What fills a hole may hold links, too.
  const links = pool.links.map(({ block, to }) => ({ block, to: part(to) }));
  const { slots, rules } = pooled(pool, world);
  const lists = listsOf(pool, world, program.textWidth, () => {
    // What an item writes first may ask for more: it comes after what is there.
    for (const { block, to } of pool.links.slice(links.length)) links.push({ block, to: part(to) });
    const more = pooled(pool, world, slots.length, rules.length);
    slots.push(...more.slots);
    rules.push(...more.rules);
  });
  return {
    ...(program.only && { only: program.only }),
    language: program.language,
    ...((links.length > 0 || lists.length > 0) && { links }),
    ...(lists.length > 0 && { lists }),
    slots,
    rules,
    asked: pool.rules,
    ...parts,
    textWidth: program.textWidth,
    finish: needsFinish(parts.text),
  };
}

function pooled(pool: Pool, world: World, fromSlot = 0, fromRule = 0) {
  const { today } = world.audience;
  return {
    slots: pool.slots
      .slice(fromSlot)
      .map((slot) => (slot.field === "date.today" ? { ...slot, given: today } : slot)),
    rules: askedOnce(pool.rules.slice(fromRule).map((rule) => predicateOrNobody(rule, world.audience))),
  };
}

const NOTHING: PickedList = { items: [], pick: () => [] };

/** The lists of a pool; an item is written when somebody gets it, and then `grown` is told. */
function listsOf(pool: Pool, world: World, textWidth: number, grown: () => void): BoundList[] {
  return pool.lists.map((ask): BoundList => {
    const { items, pick } = world.picks?.(ask) ?? NOTHING;
    const written = new Map<number, Code>();
    return {
      ask,
      items,
      pick,
      code(variant, item) {
        const key = variant * items.length + item;
        let code = written.get(key);
        if (!code) {
          const out = new Writer(pool);
          pool.variants[variant].fill(items[item], out);
          code = resolve(out.finish());
          if (pool.variants[variant].part === "text") code = wrapCode(code, textWidth);
          written.set(key, code);
          grown();
        }
        return code;
      },
    };
  });
}

/** The same predicates, each asked once of a contact while others have not been asked in between. */
function askedOnce(rules: readonly ((contact: Contact) => boolean)[]): ((contact: Contact) => boolean)[] {
  let last: Contact | null = null;
  // 0 not asked, 1 no, 2 yes.
  const known = new Uint8Array(rules.length);
  return rules.map((rule, at) => (contact) => {
    if (contact !== last) {
      known.fill(0);
      last = contact;
    }
    if (known[at] === 0) known[at] = rule(contact) ? 2 : 1;
    return known[at] === 2;
  });
}

/** Binds a single part, as the canvas needs it. */
export function bindPart(part: { pool: Pool; html: Instruction[] }, world: World): { code: Code } & Runnable {
  const pool = part.pool.copy();
  const code = resolve(part.html);
  const { slots, rules } = pooled(pool, world);
  const lists = listsOf(pool, world, 0, () => {
    slots.push(...pooled(pool, world, slots.length).slots);
  });
  return { code, slots, rules, lists };
}
