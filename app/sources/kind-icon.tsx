import { Building2, CalendarDays, Rss, ShoppingBasket } from "lucide-react";
import type { SourceKind } from "~/core/items";

/** The sign of each kind of source. */
export const KIND_ICONS = {
  feed: Rss,
  catalogue: ShoppingBasket,
  calendar: CalendarDays,
  records: Building2,
} as const satisfies Record<SourceKind, unknown>;
