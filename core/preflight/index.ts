/**
 * The checks before sending: what is wrong with an email, where, whom it touches, why it matters, and what mends it.
 *
 * `designFindings` looks a design over, `lookOver` one of its editions; `told` brings both together. `CHECKS` are all
 * that is looked for, a file each in `checks`.
 */
export { asksAbout } from "./asks";
export { isBare } from "./bare";
export { type Check, type CheckGroup, GROUPS } from "./check";
export { CHECKS } from "./checks";
export { blankIn } from "./checks/blanks";
export { codesShort } from "./checks/codes";
export { fewerWords } from "./checks/lists";
export { outOfReach } from "./checks/reached";
export { notSigned } from "./checks/signed";
export {
  type Circumstances,
  type Finding,
  type Mend,
  type Recipients,
  recipients,
  type Speller,
  WEIGHTS,
  type Weight,
} from "./finding";
export { designFindings, type EditionLooked, type Found, lookOver, type Told, told } from "./run";
export { type ListSeen, type SeenKind, type SeenThing, whoSeesWhat } from "./who-sees-what";
