/** The canvas as it is put together, for tests: the frames of all sections, and each block in its slot. */
import { blocksOf, type Email } from "../email";
import { type CompileOptions, compileBlock, compileFrame, everySurroundings, type Piece } from "../render";
import { bindPart, type Reader, run, type World } from ".";

export function canvasHtml(email: Email, options: CompileOptions, world: World, reader: Reader): string {
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
