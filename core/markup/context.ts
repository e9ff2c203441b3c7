import type { Brand, LinkRules, Theme } from "../email";
import type { Writer } from "../program";

/** What a block is given to write itself. */
export interface RenderContext {
  out: Writer;
  part: "html" | "text" | "header";
  theme: Theme;
  brand: Brand;
  /** Width available in px on a desktop. */
  width: number;
  /** Whether the canvas asks: then values and nodes carry marks, and empty places say what they wait for. */
  marks: boolean;
  /** Of the email, as a language tag. */
  language: string;
  /** Parameters of the campaign's links. */
  links?: LinkRules;
  /** The addresses numbered so far, where the text part lists them at its end. */
  textLinks?: string[];
  /** Put before picture addresses that start with `/`; empty on the canvas. */
  origin: string;
}
