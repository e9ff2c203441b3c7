import { decodeWords } from "~/core/mime";

/** The few headers a mailbox lists, read without parsing the whole message. */
export function readHeaders(source: Buffer): { subject: string; messageId: string } {
  const end = source.indexOf("\r\n\r\n");
  const head = source
    .subarray(0, end < 0 ? Math.min(source.length, 16_384) : end)
    .toString("utf8")
    .replace(/\r?\n[ \t]+/g, " ");
  const value = (name: string) => new RegExp(`^${name}:[ \\t]*(.*)$`, "im").exec(head)?.[1].trim() ?? "";
  return { subject: decodeWords(value("Subject")), messageId: value("Message-ID").replace(/^<|>$/g, "") };
}
