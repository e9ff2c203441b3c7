/** Signatures checked by somebody else: `python3-dkim` of Debian, for tests. */
import { execFile } from "node:child_process";
import { existsSync } from "node:fs";

const PYTHON = "/usr/bin/python3";

/** Whether it is installed; `bin/test` installs it where it can. */
export const hasVerifier = existsSync("/usr/lib/python3/dist-packages/dkim/__init__.py");

/** For each message its signatures from the top: selector, algorithm, and true or what is wrong. */
export function verified(
  records: readonly { name: string; text: string }[],
  messages: readonly Uint8Array[],
): Promise<[selector: string, algorithm: string, right: boolean | string][][]> {
  return new Promise((resolve, reject) => {
    const child = execFile(
      PYTHON,
      ["server/mail/fixtures/verify.py"],
      { maxBuffer: 50_000_000 },
      (error, out) => {
        if (error) reject(error);
        else resolve(JSON.parse(out));
      },
    );
    child.stdin!.end(
      JSON.stringify({
        records: Object.fromEntries(records.map(({ name, text }) => [name, text])),
        messages: messages.map((message) => Buffer.from(message).toString("base64")),
      }),
    );
  });
}
