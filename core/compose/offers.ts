/**
 * What became of a template since a design was made from it, offered part by part. What the designer has filled in or
 * changed stays as it is: a change that would touch it is said to be kept from it, and not done there.
 */
import { blockTitle, wordsOf } from "../blocks";
import {
  type AnyNode,
  type Block,
  type Email,
  findNode,
  type Located,
  ownOf,
  same,
  valueAt,
  walk,
  walkIn,
  wordSigns,
} from "../email";
import { difference, rebase, type Step } from "../steps";

/** A change of the template to one part. */
export interface Offered {
  /** The part; `email` for the email as a whole. */
  id: string;
  what: "added" | "removed" | "changed" | "moved";
  title: string;
  /** Its own words before and after; null where none changed. */
  words: { before: string; after: string } | null;
  /** Which properties become another, besides words. */
  looks: readonly string[];
  /** How it meets the designer's own work: all of it can be done, some of it, or nothing. */
  fits: "wholly" | "partly" | "not";
  /** What of it can be done, with the places of the steps among all. */
  steps: readonly { order: number; step: Step }[];
}

/** The part a step belongs to: a column's to its row, the whole email's to `email`. */
function partOf(step: Step, ...designs: Email[]): string {
  const id = step.op === "insert" || step.op === "remove" ? step.node.id : step.id;
  if (id === null) return "email";
  for (const design of designs) {
    const found = findNode(design, id);
    if (found) return found.kind === "column" ? (found.parent as string) : id;
  }
  return id;
}

/** Whether a step can be done on a draft without touching what the designer made there. */
function leavesAlone(step: Step, base: Email, draft: Email): boolean {
  switch (step.op) {
    case "insert":
      return step.at.parent === null || findNode(draft, step.at.parent) !== undefined;
    case "remove":
      return untouched(step.node.id, base, draft);
    case "move":
      return findNode(draft, step.id)?.parent === step.from.parent;
    case "set": {
      const here = step.id === null ? undefined : findNode(draft, step.id);
      if (step.id !== null && !here) return false;
      const own = here ? ownOf(here.kind, here.node) : ownOf("email", draft);
      return same(valueAt(own, step.path), step.before);
    }
  }
}

/** Whether a part stands in the draft just as it did in the template. */
function untouched(id: string, base: Email, draft: Email): boolean {
  const [was, is] = [findNode(base, id), findNode(draft, id)];
  return was !== undefined && is !== undefined && same(was.node, is.node);
}

/**
 * What a template's changes would do to a design that was made from it.
 * @param base the template as the design took it over last
 * @param template the template as it is
 * @param draft the design as it is
 */
export function offersOf(base: Email, template: Email, draft: Email): Offered[] {
  const byPart = new Map<string, { order: number; step: Step }[]>();
  for (const [at, step] of difference(base, template).entries()) {
    const part = partOf(step, template, base);
    byPart.set(part, [...(byPart.get(part) ?? []), { order: at, step }]);
  }
  const order = new Map([...walk(template), ...walk(base)].map(({ node }, at) => [node.id, at]));
  return [...byPart]
    .map(([id, all]): Offered => {
      const steps = all.map(({ step }) => step);
      const done = all.filter(({ step }) => leavesAlone(step, base, draft));
      const [was, is] = [findNode(base, id), findNode(template, id)];
      const what = !was && is ? "added" : was && !is ? "removed" : onlyMoves(steps) ? "moved" : "changed";
      // The words in a section or row that stays are its blocks' to tell.
      const tells = what === "added" || what === "removed" || is?.kind === "block";
      return {
        id,
        what,
        title: titleOf(is ?? was),
        words:
          id === "email"
            ? changed(lineOf(base), lineOf(template))
            : tells
              ? changed(saying(was), saying(is))
              : null,
        looks: looksOf(steps, is ?? was),
        fits: done.length === steps.length ? "wholly" : done.length > 0 ? "partly" : "not",
        steps: done,
      };
    })
    .sort((a, b) => (order.get(a.id) ?? -1) - (order.get(b.id) ?? -1));
}

/** A draft with the changes of these parts; where they contradict what the designer made, it has the designer's. */
export function takeOffers(draft: Email, offers: readonly Offered[], ids: ReadonlySet<string>): Email {
  const steps = offers
    .filter(({ id }) => ids.has(id))
    .flatMap((offered) => offered.steps)
    .sort((a, b) => a.order - b.order);
  return rebase(
    draft,
    steps.map(({ step }) => step),
  ).email;
}

const onlyMoves = (steps: readonly Step[]) => steps.every(({ op }) => op === "move");

function titleOf(it: Located | undefined): string {
  if (!it) return "The email as a whole";
  if (it.kind === "block") return blockTitle(it.node);
  const first = [...walkIn(it)].find(({ kind }) => kind === "block");
  const name = "name" in it.node ? it.node.name : undefined;
  return name ?? (first ? `The ${it.kind} with “${blockTitle(first.node as Block)}”` : `An empty ${it.kind}`);
}

function saying(it: Located | undefined): string {
  if (!it) return "";
  const blocks = it.kind === "block" ? [it.node] : [...walkIn(it)].flatMap((one) => blockIn(one));
  return blocks
    .flatMap((block) => wordsOf(block).map(({ words }) => wordSigns(words)))
    .filter((words) => words !== "")
    .join("\n");
}

const blockIn = ({ kind, node }: { kind: string; node: AnyNode }): Block[] =>
  kind === "block" ? [node as Block] : [];

const changed = (before: string, after: string) => (before === after ? null : { before, after });

/** Subject and preheader. */
const lineOf = ({ envelope }: Email) =>
  [envelope.subject, envelope.preheader].map((words) => wordSigns(words)).join("\n");

/** What is set besides words. */
function looksOf(steps: readonly Step[], it: Located | undefined): string[] {
  const places = new Set(it?.kind === "block" ? wordsOf(it.node).map(({ path }) => path) : []);
  const paths = steps.flatMap((step) => (step.op === "set" ? [step.path] : []));
  return [
    ...new Set(
      paths
        .filter((path) => !places.has(path) && !path.startsWith("envelope/"))
        .map((path) => path.split("/")[0]),
    ),
  ];
}
