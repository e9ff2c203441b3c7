/** Where answers go. */
import type { Email } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";

function design({ envelope: { sender } }: Email): Finding[] {
  const address = sender.replyTo || sender.address;
  if (!/^(?:no|do[-_.]?not|nicht)[-_.]?(?:reply|antworten)@/i.test(address)) return [];
  return [
    {
      weight: "could",
      text: `Answers go to ${address}, where nobody reads them. Choose an address that somebody looks at.`,
    },
  ];
}

export const answersCheck: Check = {
  name: "answers",
  group: "law",
  label: "an address for answers",
  why: "Answers are the best sign there is, for filters too; and who gets none writes a complaint.",
  design,
};
