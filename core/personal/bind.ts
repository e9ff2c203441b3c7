import { type AudienceContext, type Contact, predicateOrNobody, type Rule } from "../audience";
import type { LiveContent } from "../items";
import {
  type Code,
  type CountedLink,
  type Instruction,
  type Op,
  type Pool,
  type Program,
  resolve,
  type Slot,
} from "../program";
import { needsFinish } from "./finish";
import { wrapCode } from "./wrap";

/** What a program meets besides its readers. */
export interface World {
  content: LiveContent;
  audience: AudienceContext;
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
  /** Greatest length of a line of the text part in characters; 0 leaves them. */
  textWidth: number;
  /** Whether numbers of links or tables in the text part are settled for each reader. */
  finish: boolean;
}

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
  const part = (instructions: Instruction[]) => resolve(instructions, pool, world.content);
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
  return {
    ...(program.only && { only: program.only }),
    language: program.language,
    ...(links.length > 0 && { links }),
    ...pooled(pool, world),
    asked: pool.rules,
    ...parts,
    textWidth: program.textWidth,
    finish: needsFinish(parts.text),
  };
}

function pooled(pool: Pool, world: World) {
  const { today } = world.audience;
  return {
    slots: pool.slots.map((slot) => (slot.field === "date.today" ? { ...slot, given: today } : slot)),
    rules: askedOnce(pool.rules.map((rule) => predicateOrNobody(rule, world.audience))),
  };
}

/** The same predicates, each asked once of a contact while others have not been asked in between. */
function askedOnce(
  rules: readonly ((contact: Contact) => boolean)[],
): readonly ((contact: Contact) => boolean)[] {
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
export function bindPart(
  part: { pool: Pool; html: Instruction[] },
  world: World,
): { code: Code; slots: readonly Slot[]; rules: readonly ((contact: Contact) => boolean)[] } {
  const pool = part.pool.copy();
  const code = resolve(part.html, pool, world.content);
  return { code, ...pooled(pool, world) };
}
