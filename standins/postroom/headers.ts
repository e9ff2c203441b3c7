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

/** Text with its encoded words (RFC 2047) decoded; white space between two of them does not count. */
export function decodeWords(text: string): string {
  return text
    .replace(/(=\?[^?]+\?[bq]\?[^?]*\?=)\s+(?==\?[^?]+\?[bq]\?)/gi, "$1")
    .replace(
      /=\?([^?]+)\?([bq])\?([^?]*)\?=/gi,
      (_all, charset: string, encoding: string, content: string) => {
        const octets =
          encoding.toLowerCase() === "b"
            ? Buffer.from(content, "base64")
            : Buffer.from(
                content
                  .replace(/_/g, " ")
                  .replace(/=([0-9a-f]{2})/gi, (_octet, hex: string) =>
                    String.fromCharCode(Number.parseInt(hex, 16)),
                  ),
                "latin1",
              );
        return octets.toString(/utf-?8/i.test(charset) ? "utf8" : "latin1");
      },
    );
}
