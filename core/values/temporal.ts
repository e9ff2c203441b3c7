import type { Temporal as Spec } from "temporal-polyfill";

/** Dates, times and zones as ECMAScript has them: the engine's own, and else a polyfill that is only then fetched. */
export const Temporal =
  (globalThis as { Temporal?: typeof Spec }).Temporal ?? (await import("temporal-polyfill")).Temporal;

export declare namespace Temporal {
  type DurationLike = Spec.DurationLike;
  type PlainDate = Spec.PlainDate;
  type PlainDateTime = Spec.PlainDateTime;
  type ZonedDateTime = Spec.ZonedDateTime;
}
