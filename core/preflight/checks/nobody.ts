/** Whether anybody would get it. */
import type { Check } from "../check";
import { stops } from "../finding";

export const nobodyCheck: Check = {
  name: "nobody",
  group: "readers",
  label: "somebody who gets it",
  why: "There is nobody to send it to.",
  design: (_, { readers }) => [
    ...(readers.count === 0 ? [stops("Nobody would get it. Choose lists or segments under Readers.")] : []),
    ...(readers.chosenByGone
      ? [
          stops(
            "The readers are chosen by a list that was deleted: nobody is on it any more. Choose again under Readers.",
          ),
        ]
      : []),
  ],
};
