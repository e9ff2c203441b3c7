/**
 * What is looked at before an email goes out. `unfinished` finds what was left to be done in a design: what stops the
 * sending, and what somebody should look at first.
 */
export { isBare } from "./bare";
export { codesShort } from "./codes";
export { type Finding, type Recipients, recipients } from "./finding";
export { fewerWords } from "./lists";
export { notSigned, outOfReach } from "./sender";
export { asksAbout, unfinished } from "./unfinished";
