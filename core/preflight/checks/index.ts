/** All checks, in the order in which their findings are told within one weight: what does most harm first. */
import type { Check } from "../check";
import { alternativeCheck } from "./alternative";
import { answersCheck } from "./answers";
import { bareCheck } from "./bare";
import { blanksCheck } from "./blanks";
import { codesCheck } from "./codes";
import { colourAloneCheck } from "./colour-alone";
import { contrastCheck } from "./contrast";
import { datesCheck } from "./dates";
import { eitherOrsCheck } from "./either-ors";
import { emojiCheck } from "./emoji";
import { enlargedCheck } from "./enlarged";
import { envelopeCheck } from "./envelope";
import { fallbacksCheck } from "./fallbacks";
import { footerCheck } from "./footer";
import { forNobodyCheck } from "./for-nobody";
import { goneCheck } from "./gone";
import { goneDataCheck } from "./gone-data";
import { goneTargetsCheck } from "./gone-targets";
import { hairCheck } from "./hair";
import { headingOrderCheck } from "./heading-order";
import { heavyPicturesCheck } from "./heavy-pictures";
import { inboxLineCheck } from "./inbox-line";
import { latelyCheck } from "./lately";
import { linksAddressCheck } from "./links-address";
import { linksAlikeCheck } from "./links-alike";
import { linksFileCheck } from "./links-file";
import { linksPlainCheck } from "./links-plain";
import { linksWordsCheck } from "./links-words";
import { listsCheck } from "./lists";
import { lookupsCheck } from "./lookups";
import { nobodyCheck } from "./nobody";
import { pictureShareCheck } from "./picture-share";
import { placeholdersCheck } from "./placeholders";
import { pricesCheck } from "./prices";
import { programmeCheck } from "./programme";
import { quotesCheck } from "./quotes";
import { reachedCheck } from "./reached";
import { readingEaseCheck } from "./reading-ease";
import { sampleWordsCheck } from "./sample-words";
import { sendersCheck } from "./senders";
import { shoutingCheck } from "./shouting";
import { signedCheck } from "./signed";
import { sourcesCheck } from "./sources";
import { spellingCheck } from "./spelling";
import { styleBlockCheck } from "./style-block";
import { tableHeaderCheck } from "./table-header";
import { targetsCheck } from "./targets";
import { themeCheck } from "./theme";
import { translationsCheck } from "./translations";
import { twiceCheck } from "./twice";
import { typeSizeCheck } from "./type-size";
import { typedCheck } from "./typed";
import { unfilledCheck } from "./unfilled";
import { unreadyCheck } from "./unready";
import { unusualCheck } from "./unusual";
import { wayOutCheck } from "./way-out";
import { weightCheck } from "./weight";

export const CHECKS: readonly Check[] = [
  envelopeCheck,
  placeholdersCheck,
  reachedCheck,
  signedCheck,
  sendersCheck,
  footerCheck,
  wayOutCheck,
  unreadyCheck,
  nobodyCheck,
  typedCheck,
  unfilledCheck,
  goneCheck,
  goneTargetsCheck,
  goneDataCheck,
  programmeCheck,
  codesCheck,
  sourcesCheck,
  sampleWordsCheck,
  fallbacksCheck,
  blanksCheck,
  bareCheck,
  lookupsCheck,
  eitherOrsCheck,
  forNobodyCheck,
  listsCheck,
  translationsCheck,
  unusualCheck,
  datesCheck,
  pricesCheck,
  linksAddressCheck,
  alternativeCheck,
  spellingCheck,
  twiceCheck,
  linksFileCheck,
  linksWordsCheck,
  linksAlikeCheck,
  linksPlainCheck,
  tableHeaderCheck,
  headingOrderCheck,
  enlargedCheck,
  heavyPicturesCheck,
  contrastCheck,
  colourAloneCheck,
  typeSizeCheck,
  targetsCheck,
  themeCheck,
  hairCheck,
  styleBlockCheck,
  weightCheck,
  inboxLineCheck,
  pictureShareCheck,
  shoutingCheck,
  emojiCheck,
  readingEaseCheck,
  quotesCheck,
  answersCheck,
  latelyCheck,
];
