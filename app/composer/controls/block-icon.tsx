import {
  AlignLeft,
  BadgeCheck,
  CalendarDays,
  CalendarPlus,
  Captions,
  Code,
  Heading,
  Image,
  Images,
  LayoutTemplate,
  ListChecks,
  ListFilter,
  type LucideIcon,
  Menu,
  Minus,
  MousePointerClick,
  MoveVertical,
  PanelBottom,
  PanelLeft,
  Quote,
  RectangleEllipsis,
  Rss,
  Share2,
  ShoppingBasket,
  Signature,
  SlidersHorizontal,
  SquareDashedText,
  SquarePlay,
  Table,
  Ticket,
  Timer,
  UserPlus,
  Users,
} from "lucide-react";
import type { ComponentType } from "react";
import { BLOCK_TYPES, type BlockTypeName, blockType, type ReadyList } from "~/core/blocks";
import { GLYPHS, type GlyphName } from "~/core/markup";

const ICONS: Partial<Record<BlockTypeName, LucideIcon>> = {
  heading: Heading,
  text: AlignLeft,
  image: Image,
  button: MousePointerClick,
  beside: PanelLeft,
  boxed: SquareDashedText,
  captioned: Captions,
  menu: Menu,
  pair: RectangleEllipsis,
  quote: Quote,
  items: ShoppingBasket,
  picks: ListFilter,
  divider: Minus,
  spacer: MoveVertical,
  footer: PanelBottom,
  appointment: CalendarPlus,
  code: Code,
  countdown: Timer,
  coupon: Ticket,
  icons: ListChecks,
  imageSet: Images,
  logo: BadgeCheck,
  overlaid: LayoutTemplate,
  refer: UserPlus,
  share: Share2,
  signature: Signature,
  social: Users,
  survey: SlidersHorizontal,
  table: Table,
  video: SquarePlay,
};

export type Icon = ComponentType<{ className?: string; strokeWidth?: number; "aria-hidden"?: boolean }>;

/** One of the drawings as a sign of the interface. */
const drawn =
  (name: GlyphName): Icon =>
  ({ className, strokeWidth = 1.75 }) => (
    <svg
      viewBox="0 0 24 24"
      className={className}
      fill="none"
      stroke="currentColor"
      strokeWidth={strokeWidth}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden
    >
      <path d={GLYPHS[name]} />
    </svg>
  );

const DRAWN = new Map(
  (Object.keys(BLOCK_TYPES) as BlockTypeName[]).map((type) => [
    type,
    ICONS[type] ?? drawn(blockType(type)?.drawing ?? "star"),
  ]),
);

/** What lists that come ready set are shown by. */
export const READY_ICONS: Record<ReadyList, Icon> = { articles: Rss, events: CalendarDays };

/** What a type of block is shown by in the shelf and in menus: a sign of its own, or the drawing it declares. */
export const blockIcon = (type: BlockTypeName): Icon => DRAWN.get(type) as Icon;
