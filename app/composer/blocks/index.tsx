import type { ComponentType } from "react";
import { type BlockTypeName, blockType, type TypedBlock } from "~/core/blocks";
import type { Block } from "~/core/email";
import { Part } from "../panel/part";
import { ArticlesControls } from "./articles";
import { BesideControls } from "./beside";
import { BoxedControls } from "./boxed";
import { ButtonControls } from "./button";
import { CaptionedControls } from "./captioned";
import { DividerControls } from "./divider";
import { FooterControls } from "./footer";
import { HeadingControls } from "./heading";
import { ImageControls } from "./image";
import { MenuControls } from "./menu";
import { PairControls } from "./pair";
import { QuoteControls } from "./quote";
import { SpacerControls } from "./spacer";
import { TextControls } from "./text";

/** The controls of each block type. A type that is missing here does not compile. */
const CONTROLS: { [Name in BlockTypeName]: ComponentType<{ block: TypedBlock<Name> }> } = {
  heading: HeadingControls,
  text: TextControls,
  image: ImageControls,
  button: ButtonControls,
  beside: BesideControls,
  boxed: BoxedControls,
  captioned: CaptionedControls,
  menu: MenuControls,
  pair: PairControls,
  quote: QuoteControls,
  articles: ArticlesControls,
  divider: DividerControls,
  spacer: SpacerControls,
  footer: FooterControls,
};

export function BlockControls({ block }: { block: Block }) {
  const type = blockType(block.type);
  if (!type) {
    return (
      <Part title="Unknown block">
        <p className="text-ink-soft">
          A newer version of the program made it. It is kept as it is and not sent.
        </p>
      </Part>
    );
  }
  // The registry's type says which controls take which block; `block.type` picks the fitting ones.
  const Controls = CONTROLS[type.type as BlockTypeName] as unknown as ComponentType<{ block: Block }>;
  return <Controls block={block} />;
}
