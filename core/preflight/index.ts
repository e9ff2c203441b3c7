/**
 * What is looked at before an email goes out. `unfinished` finds what was left to be done in a design: what stops the
 * sending, and what somebody should look at first.
 */
export { asksAbout, type Finding, type Recipients, recipients, unfinished } from "./unfinished";
