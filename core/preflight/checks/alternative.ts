/** Alternative texts: missing, a file’s name, too long. */
import { picturesOf } from "../../blocks";
import { commands } from "../../compose";
import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import { type Finding, mendBy } from "../finding";

/** So many characters are read in one go. */
const LONG = 125;
const FILE =
  /^[^\s]+\.(?:jpe?g|png|gif|webp|svg|avif)$|^(?:img|dsc|image|picture|photo|screenshot)[-_ ]?\d+$/i;

function design(email: Email): Finding[] {
  return blocksOf(email).flatMap((block) =>
    picturesOf(block).flatMap(({ path, picture, label }): Finding[] => {
      const { src, alt, decorative } = picture as { src: string; alt?: unknown; decorative?: unknown };
      if (src === "" || typeof alt !== "string" || decorative === true) return [];
      const said = alt.trim();
      const at = { block: block.id };
      if (said === "")
        return [
          {
            weight: "look",
            text: `${label} has no alternative text. Say what it shows, or that it only decorates.`,
            ...at,
            ...(decorative === false && {
              mend: mendBy("It only decorates", email, commands.setAt(block.id, `${path}decorative`, true)),
            }),
          },
        ];
      if (FILE.test(said))
        return [
          {
            weight: "look",
            text: `An alternative text is the name of a file, “${said}”. Say what the picture shows.`,
            ...at,
          },
        ];
      if ([...said].length > LONG)
        return [
          {
            weight: "could",
            text: `An alternative text has ${[...said].length} characters, “${said.slice(0, 40)}…”. Say it in at most ${LONG}, and the rest in the words around it.`,
            ...at,
          },
        ];
      return [];
    }),
  );
}

export const alternativeCheck: Check = {
  name: "alternative",
  group: "content",
  label: "alternative texts",
  why: "Many read with pictures off, or have the message read aloud: then this is all there is of it.",
  spoken: true,
  design,
};
