/** How heavy an edition is. */
import { CLIPPED } from "../../inboxes";
import type { Check } from "../check";

/** From so many octets on a few more words would have it cut off. */
const NEARLY = 90 * 1024;

export const weightCheck: Check = {
  name: "weight",
  group: "law",
  label: "the weight of each edition",
  why: "What is cut off hides the end of the message, and the way to unsubscribe with it.",
  edition: ({ bytes }) =>
    bytes <= NEARLY
      ? []
      : [
          bytes > CLIPPED
            ? {
                weight: "look",
                text: "It is heavier than 102 KB, where large webmail cuts it off. Take something out, or let some of it be for some readers only.",
              }
            : {
                weight: "could",
                text: "It is nearly 102 KB, where large webmail cuts it off. Take something out before more comes in.",
              },
        ],
};
