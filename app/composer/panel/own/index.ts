/** What declarations cannot say of panels, by the types of blocks. */
import type { ComponentType } from "react";
import type { BlockTypeName, TypedBlock } from "~/core/blocks";
import type { Block } from "~/core/email";
import { AppointmentEnds } from "./appointment";
import { CodeLeftOut } from "./code";
import { CouponLastDay } from "./coupon";
import { ItemFacts } from "./facts";
import { BrandFooters } from "./footer";
import { HeadingTold } from "./heading";
import { GridOrStrip } from "./image-set";
import { PlacedItems } from "./items";
import { LogoHref, LogoWidth } from "./logo";
import { WordsPlace } from "./overlaid";
import { PicksFilter, PicksGiven, PicksWays } from "./picks";
import { ReferProgramme } from "./refer";
import { SurveyAnswers } from "./survey";
import { TableParts } from "./table";
import { VideoFilm } from "./video";

type Controls<B> = { [Key in keyof B]?: ComponentType<{ block: B }> };

/** Controls of one type's own. */
interface Own<B> {
  /** In place of those that follow from the declaration, by the property. */
  instead?: Controls<B>;
  /** Below the control of a property. */
  below?: Controls<B>;
  /** Further parts of the panel. */
  parts?: ComponentType<{ block: B }>;
}

const OWN: { [Name in BlockTypeName]?: Own<TypedBlock<Name>> } = {
  appointment: { below: { end: AppointmentEnds } },
  code: { below: { html: CodeLeftOut } },
  coupon: { instead: { until: CouponLastDay } },
  footer: { below: { align: BrandFooters } },
  heading: { below: { outline: HeadingTold } },
  imageSet: { below: { across: GridOrStrip } },
  items: { instead: { items: PlacedItems, facts: ItemFacts } },
  logo: { instead: { width: LogoWidth, href: LogoHref } },
  overlaid: { instead: { valign: WordsPlace } },
  picks: {
    instead: { filter: PicksFilter, ways: PicksWays, facts: ItemFacts },
    below: { count: PicksGiven },
  },
  refer: { instead: { programme: ReferProgramme } },
  survey: { parts: SurveyAnswers },
  table: { parts: TableParts },
  video: { below: { href: VideoFilm } },
};

/** The controls of a block's own. */
export function ownOf(block: Block): Own<Block> {
  // The registry's type says which controls take which block; `block.type` picks the fitting ones.
  return (OWN[block.type as BlockTypeName] ?? {}) as unknown as Own<Block>;
}
