import { type Email, inlineText } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";

function envelope({ envelope: { subject, sender } }: Email): Finding[] {
  const found: Finding[] = [];
  if (inlineText(subject).trim() === "")
    found.push({ weight: "stops", text: "There is no subject. Write one above the email." });
  if (sender.address === "")
    found.push({ weight: "stops", text: "There is no sender’s address. Choose one above the email." });
  return found;
}

export const envelopeCheck: Check = {
  name: "envelope",
  group: "law",
  label: "subject and sender",
  why: "Without them a message is not delivered, or not opened.",
  design: envelope,
};
