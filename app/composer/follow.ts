import { type Contact, RuleError } from "~/core/audience";
import { type Email, resolveTheme } from "~/core/email";
import { type Bound, bind, editions, personalise, previewAddresses, readerOf } from "~/core/personal";
import { compile } from "~/core/render";
import type { Composer, EditionFacts, Facts } from "./store";

/** What decides the editions: rules, tags and where they stand, without any words. */
function signature(bound: Bound, rules: unknown): string {
  const parts = [bound.subject, bound.preheader, bound.senderName, bound.html, bound.text];
  const shape = parts.map((code) =>
    code
      .map((op) =>
        op.op === "static"
          ? "s"
          : op.op === "value"
            ? `v${op.slot}`
            : op.op === "jump"
              ? `j${op.to}`
              : `u${op.rule}>${op.to}`,
      )
      .join(" "),
  );
  return JSON.stringify([shape, rules, bound.slots]);
}

/**
 * What a reader gets of a design: how many octets of HTML, which edition; and what decides the editions of all readers,
 * as a text that changes only with it.
 * @throws RuleError when a rule cannot be answered
 */
export function whatReaderGets(
  email: Email,
  reader: Contact,
  { brand, content, audience, themes }: Pick<Facts, "brand" | "content" | "audience" | "themes">,
  origin: string,
): { bytes: number; edition: string; signature: string } {
  const program = compile(email, { theme: resolveTheme(email.theme, themes), brand, origin });
  const bound = bind(program, { content, audience });
  const { html } = personalise(bound, readerOf(reader, email.language, previewAddresses(origin)));
  const [own] = editions(bound, [reader]);
  return {
    bytes: new TextEncoder().encode(html).length,
    edition: own.key,
    signature: signature(bound, program.tables.rules),
  };
}

/**
 * Keeps the reader bar right while the design changes: size and edition of this reader at once, the editions of the
 * whole audience whenever rules or tags have changed. Returns how to stop.
 */
export function followEditions(store: Composer): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let known = "";
  let asking: AbortController | null = null;

  const work = () => {
    const { email, facts, reader, set } = store.getState();
    try {
      const { bytes, edition, signature: now } = whatReaderGets(email, reader, facts, location.origin);
      set({ bytes, edition, trouble: null });
      if (now !== known) {
        known = now;
        void ask();
      }
    } catch (error) {
      if (!(error instanceof RuleError)) throw error;
      set({ trouble: error.message });
    }
  };

  const ask = async () => {
    asking?.abort();
    asking = new AbortController();
    const { email, facts, set } = store.getState();
    try {
      const response = await fetch(`/campaigns/${facts.campaign}/editions`, {
        method: "POST",
        body: JSON.stringify(email),
        signal: asking.signal,
      });
      const answer = (await response.json()) as {
        editions: EditionFacts[];
        readers: number;
        problem: string | null;
      };
      set({ editions: answer.editions, audienceSize: answer.readers, trouble: answer.problem });
    } catch {
      // The server is away: the editions stay as they were and are asked for at the next change.
      known = "";
    }
  };

  const stop = store.subscribe((state, before) => {
    if (state.email === before.email && state.reader === before.reader) return;
    clearTimeout(timer);
    timer = setTimeout(work, state.reader !== before.reader ? 0 : 250);
  });
  work();
  return () => {
    stop();
    clearTimeout(timer);
    asking?.abort();
  };
}
