import type { ComponentType } from "react";
import type { BlockTypeName, TypedBlock, UnreadableBlock } from "~/core/blocks";
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
import { CouponControls } from "./coupon";
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
  coupon: CouponControls,
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
  if (!Object.hasOwn(CONTROLS, block.type)) return <UnreadableControls block={block} />;
  // The registry's type says which controls take which block; `block.type` picks the fitting ones.
  const Controls = CONTROLS[block.type as BlockTypeName] as unknown as ComponentType<{ block: Block }>;
  return <Controls block={block} />;
}

/** What is known of a block that cannot be read. */
function UnreadableControls({ block }: { block: Block }) {
  const { why, raw } = block as unknown as UnreadableBlock;
  return (
    <Part title="Unreadable block">
      <p>{why}</p>
      <p className="text-ink-soft">
        It is kept as it is and not sent. The version that made it may read it; or delete it.
      </p>
      <details>
        <summary className="cursor-pointer text-ink-soft">What is stored</summary>
        <pre className="mt-1 max-h-60 overflow-auto rounded-md bg-table p-2 font-mono text-xs">
          {JSON.stringify(raw, null, 2)}
        </pre>
      </details>
    </Part>
  );
}
