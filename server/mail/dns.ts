/** What the DNS says about a record that should be there. */
import { Resolver } from "node:dns/promises";
import { z } from "zod";
import { publishedKey } from "~/core/mime";
import type { Septima } from "../septima";

export const SeenSchema = z.object({
  /** Milliseconds since 1970. */
  at: z.number(),
  what: z.enum(["there", "missing", "other", "unanswered"]),
  /** What that means, as a sentence. */
  words: z.string(),
});
export type Seen = z.infer<typeof SeenSchema>;

/** How long the DNS is asked, in milliseconds, and how often. */
const PATIENCE = { timeout: 2500, tries: 2 };

const GONE = new Set(["ENOTFOUND", "ENODATA"]);

/** Asks whether a key's TXT record is there as it should be. Nothing is thrown: that nobody answers is an answer. */
export async function askRecord(
  { config, now }: Septima,
  record: { name: string; text: string },
): Promise<Seen> {
  const seen = (what: Seen["what"], words: string): Seen => ({ at: now(), what, words });
  const resolver = new Resolver(PATIENCE);
  if (config.dns) resolver.setServers([config.dns]);
  let records: string[];
  try {
    records = (await resolver.resolveTxt(record.name)).map((parts) => parts.join(""));
  } catch (error) {
    const { code = "" } = error as NodeJS.ErrnoException;
    if (GONE.has(code))
      return seen(
        "missing",
        `There is no TXT record at ${record.name} yet. A new one can take some hours to be seen everywhere.`,
      );
    return seen(
      "unanswered",
      `The DNS does not answer from here (${code}). That says nothing about the record: ask again when this machine is online.`,
    );
  }
  const keys = records.map(publishedKey);
  const wanted = publishedKey(record.text);
  if (keys.includes(wanted))
    return keys.filter((key) => key !== null).length > 1
      ? seen("other", `The record is there, and another key beside it at ${record.name}: remove the other.`)
      : seen("there", "The record is there as it should be.");
  if (keys.includes(""))
    return seen("other", `The key at ${record.name} is withdrawn: publish the record shown here.`);
  return seen(
    "other",
    `There is another record at ${record.name}: “${records.join("”, “").slice(0, 200)}”. Replace it by the one shown here.`,
  );
}
