/** Properties that stand together wherever they stand: those of a picture, of words, of a face, of a row of links. */
import {
  address,
  align,
  alt,
  choice,
  colour,
  corners,
  natural,
  number,
  type PictureSaid,
  picture,
  type Rounding,
  toggle,
} from "./kinds";
import type { Behind, Themed } from "./property";

/** What is said of a block that is about a picture and has none. */
export const NO_PICTURE_YET = "A picture block has no picture. Choose one or delete the block.";

/**
 * All that is known of a picture: its address, what it says, its size, its corners, and where it leads. What stands
 * under the picture's own title is set together.
 */
export function pictureProperties(said: PictureSaid & { corners?: Rounding } = {}) {
  const { corners: rounded = {}, ...of } = said;
  const { part } = of;
  return {
    src: picture("Picture", { under: "Picture", ...of }),
    alt: alt({ part, fresh: "", when: { decorative: false } }),
    decorative: toggle("Only decoration", { part, fresh: false }),
    natural: natural(),
    radius: corners({ part, ...rounded }),
    href: address("Leads to", { part, of: ["alt"], otherwise: "Picture" }),
  };
}

/** Size and colour of words, where nothing is said those of the theme. */
export const wordLook = ({
  under,
  size = ({ text: words }) => words.size,
  color = ({ light }) => light.text,
  max = 40,
  on = "around",
  ...rest
}: {
  under: string;
  size?: Themed<number>;
  color?: Themed<string>;
  max?: number;
  offered?: number;
  on?: Behind;
  phone?: true;
}) => ({
  size: number("Size", { min: 10, max }, { look: true, under, theme: size, ...rest }),
  color: colour("Colour", { under, theme: color, on }),
});

/** A coloured face that is pressed, and what is written on it, in the theme's colours for it where nothing is said. */
export const faceLook = ({ under, words = "Words" }: { under: string; words?: string }) => ({
  face: colour("Face", { under, fills: true, theme: ({ light }) => light.accent }),
  color: colour(words, { under, theme: ({ light }) => light.onAccent, on: { face: "face" } }),
});

/** How a row of links with drawings looks. */
export const rowLook = (size: number, display: "drawings" | "words" | "both" = "drawings") => ({
  display: choice(
    "Shown as",
    [
      { value: "drawings", label: "Icons" },
      { value: "words", label: "Words" },
      { value: "both", label: "Both" },
    ],
    { fresh: display, look: true, under: "Look" },
  ),
  align: align({ fresh: "center", under: "Look" }),
  size: number("Icon size", { min: 16, max: 64 }, { fresh: size, look: true, phone: true, under: "Look" }),
  color: colour("Colour", { under: "Look", theme: ({ light }) => light.link, on: "around" }),
});
