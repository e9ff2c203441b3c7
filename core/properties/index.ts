/**
 * What the properties of a block are: each declared once, by what it holds (`kinds`), as `property.ts` describes it.
 * `schemasOf` and `freshValues` make validators and new blocks of the declarations, `placedIn` finds what a block holds.
 */
export * from "./groups";
export * from "./kinds";
export * from "./nodes";
export * from "./property";
export * from "./walk";
