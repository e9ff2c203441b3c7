/** The designs that are measured. */
import { readFile } from "node:fs/promises";
import { parseEmail } from "~/core/blocks";
import type { Email } from "~/core/email";

/** An email of a hundred blocks. */
export async function hundredBlocks(): Promise<Email> {
  const file = new URL("./fixtures/hundred-blocks.json", import.meta.url);
  return parseEmail((JSON.parse(await readFile(file, "utf8")) as { email: unknown }).email);
}

/** The email with so many blocks: its middle sections again and again, under ids of their own. */
export function grown(email: Email, blocks: number): Email {
  const [first, ...middle] = email.sections.slice(0, -1);
  const sections = [first];
  const count = () => JSON.stringify(sections).split('"type":').length;
  const most = (blocks / 100) * JSON.stringify(email.sections).split('"type":').length;
  for (let at = 0; count() < most; at++)
    sections.push(
      JSON.parse(
        JSON.stringify(middle[at % middle.length]).replace(/"id":"([^"]+)"/g, (all, id) =>
          at < middle.length ? all : `"id":"${id}-${Math.floor(at / middle.length)}"`,
        ),
      ),
    );
  return { ...email, sections: [...sections, ...email.sections.slice(-1)] };
}
