/**
 * What follows from what readers did: what is popular, goes together, is alike, is bought again.
 *
 * All of it is worked out from `Sales` and items alone, in a fixed order: the same data say the same every time.
 */
export { likenessOf } from "./likeness";
export { type Companion, companions, popular, popularBy, type Sales, usualGaps } from "./market";
