import { type Contact, isAnswerable } from "~/core/audience";
import { type Email, resolveTheme } from "~/core/email";
import {
  type Bound,
  bind,
  editions,
  partsOf,
  personalise,
  previewAddresses,
  readerOf,
} from "~/core/personal";
import { compile } from "~/core/render";
import { languageAsked } from "~/core/translation";
import { tell } from "../../requests";
import { whenIdle } from "../../ui/when-idle";
import { type Composer, type Facts, worldOf } from "../state/store";

/** What decides the editions: rules, tags, where they stand, and the words that not everybody gets. */
function signature(bound: Bound, rules: unknown): string {
  const shape = partsOf(bound).map((code) => {
    let until = 0;
    // Versions in two languages are never the same, whatever they say.
    const languages = new Set(
      code.flatMap((op, at) =>
        op.op === "unless" && !bound.only && languageAsked(bound.asked[op.rule]) !== null
          ? [at, op.to - 1]
          : [],
      ),
    );
    return code.map((op, at) => {
      if (op.op === "value") return `v${op.slot}`;
      if (op.op === "static") return at < until ? op.text : "";
      if (op.op === "item") return `i${op.list}.${op.place}`;
      if (op.op === "fewer" || op.op === "enough") return `${op.op}${op.list}.${op.than}>${op.to}`;
      if (!languages.has(at)) until = Math.max(until, op.to);
      if (op.op === "without") return `w${op.slot}>${op.to}`;
      return op.op === "jump" ? `j${op.to}` : `u${op.rule}>${op.to}`;
    });
  });
  return JSON.stringify([shape, rules, bound.slots]);
}

/**
 * What a reader gets of a design: how many octets of HTML, which edition; and what decides the editions of all readers,
 * as a text that changes only with it; and whether a rule names what is gone, so that its part is for nobody.
 */
export function whatReaderGets(
  email: Email,
  reader: Contact,
  facts: Pick<Facts, "brand" | "audience" | "picks" | "themes" | "tags">,
  origin: string,
): { bytes: number; edition: string; signature: string; gone: boolean } {
  const { brand, audience, themes, tags } = facts;
  const program = compile(email, {
    theme: resolveTheme(email.theme, themes),
    brand,
    origin,
    today: audience.today,
    ...tags,
  });
  const bound = bind(program, worldOf(facts));
  const { html } = personalise(bound, readerOf(reader, email.language, previewAddresses(origin)));
  const [own] = editions(bound, [reader]);
  return {
    bytes: new TextEncoder().encode(html).length,
    edition: own.key,
    signature: signature(bound, program.pool.rules),
    gone: !bound.asked.every((rule) => isAnswerable(rule, audience)),
  };
}

const RULE_GONE = "A rule names a segment that is gone: nobody gets what it is for. Send says where it is.";

/** So long after the hand has come to rest the figures follow, in milliseconds. */
const REST = 250;

/**
 * Keeps the reader bar right when the design has changed: size and edition of this reader, and the editions of the whole
 * audience where rules or tags have changed. Returns how to stop.
 */
export function followEditions(store: Composer): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let known: string | null = null;
  /** What came with the page: the design whose editions are told, or why they cannot be. */
  const { email: came, trouble: said } = store.getState();
  let trouble = said;
  let asking: AbortController | null = null;

  const work = () => {
    const { email, facts, reader, set } = store.getState();
    const { bytes, edition, signature: now, gone } = whatReaderGets(email, reader, facts, location.origin);
    set({ bytes, edition, trouble: gone ? RULE_GONE : trouble });
    const another = now !== known && !(known === null && email === came);
    known = now;
    if (another) {
      set({ counted: "counting" });
      void ask();
    }
  };

  const ask = async () => {
    asking?.abort();
    asking = new AbortController();
    const { signal } = asking;
    const { email, facts, set } = store.getState();
    const { result } = await tell("/campaigns/:campaign/editions", email, {
      at: { campaign: facts.campaign },
      signal,
    });
    if (signal.aborted) return;
    if (result) {
      trouble = result.trouble;
      set({ editions: result.editions, audienceSize: result.readers, trouble, counted: "counted" });
      return;
    }
    // The server is away: the editions stay as they were, which is said, and are asked for at the next change.
    known = "";
    set({ counted: "away" });
  };

  const stop = store.subscribe((state, before) => {
    // While one types nothing is compiled whole: the hand that rests sets it off, and one that goes on puts it off.
    if (state.resting === before.resting && state.email === before.email && state.reader === before.reader)
      return;
    clearTimeout(timer);
    timer = setTimeout(work, state.reader !== before.reader ? 0 : REST);
  });
  // The page comes first: what is said of it at its foot can wait until it is drawn.
  const leave = whenIdle(work, REST);
  return () => {
    leave();
    stop();
    clearTimeout(timer);
    asking?.abort();
  };
}
