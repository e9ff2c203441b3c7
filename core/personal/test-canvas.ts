/** The canvas beside the message, for tests that hold them to each other. */
import { blocksOf, type Email } from "../email";
import { type CompileOptions, compileBlock, compileFrame, everySurroundings, type Piece } from "../render";
import { bindPart, type Reader, run, type World } from ".";

/** The canvas as it is put together: the frames of all sections, and each block in its slot. */
function canvasHtml(email: Email, options: CompileOptions, world: World, reader: Reader): string {
  const htmlOf = ({ pool, html }: Piece) => {
    const bound = bindPart({ pool, html }, world);
    return run(bound.code, bound, reader);
  };
  const surroundings = everySurroundings(email, options);
  const blocks = new Map(blocksOf(email).map((block) => [block.id, block]));
  return email.sections
    .map((section) =>
      htmlOf(compileFrame(section, email, options)).replace(
        /<tr data-slot="([^"]*)"><\/tr>/g,
        (_, id: string) => {
          const [block, around] = [blocks.get(id), surroundings.get(id)];
          if (!block || !around) throw new Error(`The slot of ${id} is nobody's.`);
          return htmlOf(compileBlock(block, around, email, options));
        },
      ),
    )
    .join("");
}

/** The canvas without what it has besides the message: marks, and what waits to be filled. */
export const canvasBody = (...of: Parameters<typeof canvasHtml>): string =>
  canvasHtml(...of)
    .replace(/<(tr|div) data-hidden="[^"]*">.*?<\/\1>/g, "")
    .replaceAll('<div class="waiting">Drop a block here</div>', "&nbsp;")
    .replace(/<div class="waiting[^>]*>(?:<span[^>]*>[^<]*<\/span>|[^<]*)<\/div>/g, "")
    .replace(/ data-[a-z-]+(="[^"]*")?/g, "")
    .replace(/<span class="reader-value">(.*?)<\/span>/g, "$1");

/** The same of a message. */
export const messageBody = (html: string): string =>
  html.slice(
    html.indexOf("<table", html.indexOf('aria-roledescription="email"')),
    html.indexOf("</div></body>"),
  );
