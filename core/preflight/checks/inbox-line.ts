/** How subject and preheader stand in an inbox. */
import { adviseSubject } from "../../advice";
import type { Check } from "../check";

export const inboxLineCheck: Check = {
  name: "inbox-line",
  group: "law",
  label: "subject and preheader",
  why: "It is all that most readers see before they decide.",
  edition: ({ message: { subject, preheader } }) =>
    subject.trim() === ""
      ? []
      : adviseSubject(subject, preheader).map(({ about, why }) => ({
          weight: "could",
          text: `The ${about}: ${why.replace(/^(\d)/, "it has $1").replace(/^[A-Z]/, (sign) => sign.toLowerCase())}`,
        })),
};
