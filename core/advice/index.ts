/**
 * Advice on writing, in English: what is hard to read and what reads badly in an inbox.
 *
 * `adviseText` finds places in a text, `readingEase` weighs it, `adviseSubject` looks at subject and preheader.
 */
export { adviseSubject } from "./subject";
export { type Advice, type AdviceKind, adviseText, readingEase } from "./text";
