/**
 * Changing a document: every change is a command, every command can be undone.
 *
 * `commands` are pure functions on an email; `History` keeps what was done; `placesFor` lists where something may
 * land, and names each place.
 */

export { CLIP_TYPE, fromClip, toClip, toClipMany } from "./clip";
export {
  aroundPart,
  type Clipping,
  type ClippingPart,
  changesLinked,
  cutLoose,
  heldBy,
  keptPart,
  linkedAround,
  linkedParts,
  linkTo,
  placedClipping,
  withClipping,
} from "./clippings";
export { type Command, CommandError, changeEmail, commands } from "./commands";
export { type Comparison, compareEmails, type Difference } from "./compare";
export { History } from "./history";
export { freshCopy, type IdMaker } from "./ids";
export { blankEmail, LAYOUTS } from "./layouts";
export { type EmailLink, linksOf, replacedLinks, setLinks } from "./links";
export { differsFromShelf, fromShelf, likeBlocks, spreadLook } from "./looks";
export {
  type Mention,
  type MentionKind,
  mentionsIn,
  type Named,
  type NamedKind,
  namedKey,
  namesIn,
  picturesNamed,
  type Renaming,
  renamed,
} from "./named";
export { neighbourWords } from "./neighbours";
export { type Offered, offersOf, takeOffers } from "./offers";
export { clearOneOffs, type LookKind, type OneOff, oneOffsOf } from "./one-offs";
export { type NamedPicture, replacePicture, withPicture } from "./pictures";
export { type Carried, nextPlace, type Place, placeName, placesFor, readingOrder, samePlace } from "./places";
export { partWords, searchWords } from "./search-words";
export { addLanguage, removeLanguage, sayIn, translate } from "./translations";
