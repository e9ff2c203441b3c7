import type { ComponentType } from "react";
import { type BlockTypeName, blockType, type TypedBlock } from "~/core/blocks";
import type { Block } from "~/core/email";
import { Part } from "../panel/part";
import { AppointmentControls } from "./appointment";
import { ArticlesControls } from "./articles";
import { BesideControls } from "./beside";
import { BoxedControls } from "./boxed";
import { ButtonControls } from "./button";
import { CaptionedControls } from "./captioned";
import { CodeControls } from "./code";
import { CountdownControls } from "./countdown";
import { DividerControls } from "./divider";
import { FooterControls } from "./footer";
import { HeadingControls } from "./heading";
import { IconsControls } from "./icons";
import { ImageControls } from "./image";
import { ImageSetControls } from "./image-set";
import { ShareControls, SocialControls } from "./link-row";
import { LogoControls } from "./logo";
import { MenuControls } from "./menu";
import { OverlaidControls } from "./overlaid";
import { PairControls } from "./pair";
import { QuoteControls } from "./quote";
import { ReferControls } from "./refer";
import { SignatureControls } from "./signature";
import { SpacerControls } from "./spacer";
import { SurveyControls } from "./survey";
import { TableControls } from "./table";
import { TextControls } from "./text";
import { VideoControls } from "./video";

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
  appointment: AppointmentControls,
  code: CodeControls,
  countdown: CountdownControls,
  icons: IconsControls,
  imageSet: ImageSetControls,
  logo: LogoControls,
  overlaid: OverlaidControls,
  refer: ReferControls,
  share: ShareControls,
  signature: SignatureControls,
  social: SocialControls,
  survey: SurveyControls,
  table: TableControls,
  video: VideoControls,
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
