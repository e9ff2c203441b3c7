/** A stretch of a rehearsal, in a process of its own: messages made, read back by a parser that is not ours, and looked at. */
import PostalMime, { type Address } from "postal-mime";
import { run } from "~/core/personal";
import { type Finished, joined, type Measures, NOTHING, noted, oddOf, type Tally } from "~/core/rehearsal";
import { type Addressed, type Codes, type Frozen, type Making, makingOf } from "../dispatch/making";

/** Whose messages are made. */
export interface Rehearsed {
  to: Addressed;
  codes: Codes;
}

export interface Stretch {
  /** The key by which addresses are signed. */
  secret: string;
  dispatch: { id: string; campaignId: string };
  frozen: Frozen;
  readers: readonly Rehearsed[];
}

/** Makes the messages of some readers and says what they come to. */
export async function rehearseStretch({ secret, dispatch, frozen, readers }: Stretch): Promise<Tally> {
  const making = makingOf(secret, dispatch, frozen);
  let tally = NOTHING;
  for (const one of readers) {
    const { finished, measures } = await readBack(making, frozen, one);
    tally = joined(tally, noted({ reader: one.to.id, measures }, oddOf(finished)));
  }
  return tally;
}

async function readBack(
  { bound, factory, octets, reader: readerFor }: Making,
  { program }: Frozen,
  { to, codes }: Rehearsed,
): Promise<{ finished: Finished; measures: Measures }> {
  const reader = readerFor(to, codes);
  const message = octets(to, reader);
  const read = await PostalMime.parse(message);
  const subject = run(bound.subject, bound, reader);
  const name = run(bound.recipient, bound, reader).trim() || (to.name ?? "");
  const text = read.text ?? null;
  const shown = program.editions[to.edition].codes;
  return {
    finished: {
      read: {
        from: mailboxes([read.from])[0] ?? { name: "", address: "" },
        to: mailboxes(read.to ?? []),
        subject: read.subject ?? "",
        unsubscribe: read.headers.find(({ key }) => key === "list-unsubscribe")?.value ?? "",
        html: read.html ?? null,
        text,
      },
      meant: {
        from: { name: run(bound.senderName, bound, reader), address: factory.from(reader) },
        to: { name: name === to.address ? "" : name, address: to.address },
        subject,
        unsubscribe: reader.system.unsubscribe,
        codes: shown.flatMap((batch) => codes[batch] ?? []),
        textOnly: bound.only === "text",
      },
      leadsTo(href) {
        const place = (bound.links ?? []).findIndex((_, at) => reader.system.link?.(at) === href);
        return place < 0 ? href : run(bound.links![place].to, bound, reader);
      },
      html: Buffer.byteLength(read.html ?? ""),
      longestLine: longestLine(message),
    },
    measures: {
      octets: message.length,
      words: text?.match(/\S+/g)?.length ?? 0,
      subject: [...subject].length,
      name: [...name].length,
    },
  };
}

const mailboxes = (all: readonly (Address | undefined)[]): { name: string; address: string }[] =>
  all.flatMap((one) =>
    one === undefined ? [] : one.group ? one.group : [{ name: one.name, address: one.address ?? "" }],
  );

const CR = 13;
const LF = 10;

/** The octets of the longest line of a message without its end. */
export function longestLine(message: Uint8Array): number {
  let longest = 0;
  for (let at = 0; at < message.length; ) {
    const found = message.indexOf(LF, at);
    const end = found < 0 ? message.length : found;
    longest = Math.max(longest, end - at - (message[end - 1] === CR ? 1 : 0));
    at = end + 1;
  }
  return longest;
}
