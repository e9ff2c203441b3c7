import type { en } from "./en";

/**
 * What is said to readers, by what it is for. `{brand}`, `{email}`, `{name}` and the like stand for what
 * differs; every language names what English does.
 */
export type Words = Readonly<Record<keyof typeof en, string>>;
