import { type Email, inlineText, PLACEHOLDER_BRAND } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { stops } from "../finding";

/** Whether something says what a new workspace comes with. */
const isOurs = (said: string, ours: string) => said.toLowerCase().includes(ours.toLowerCase());
const OUR_SITE = new URL(PLACEHOLDER_BRAND.website).hostname;

/** A sender, a postal address or a site that a new workspace came with and nobody has replaced. */
function placeholders({ envelope: { sender } }: Email, { brand }: Circumstances): Finding[] {
  const found: Finding[] = [];
  const addresses = [sender.address, sender.replyTo ?? ""];
  if (addresses.some((address) => isOurs(address, `@${OUR_SITE}`)))
    found.push(
      stops(
        `The sender’s address is still the one that Septima came with, at ${OUR_SITE}. Write yours under Brand, and choose it above the email.`,
      ),
    );
  if (inlineText(sender.name).trim() === PLACEHOLDER_BRAND.name || brand.name === PLACEHOLDER_BRAND.name)
    found.push(
      stops(
        `The sender is still called “${PLACEHOLDER_BRAND.name}”. Write your name under Brand, and choose the sender above the email.`,
      ),
    );
  if (isOurs(brand.address, PLACEHOLDER_BRAND.address))
    found.push(
      stops(
        `The postal address is still “${PLACEHOLDER_BRAND.address}”. The law wants yours: write it under Brand.`,
      ),
    );
  if (isOurs(brand.website, OUR_SITE))
    found.push(
      stops(
        `The website is still “${PLACEHOLDER_BRAND.website}”. Write yours under Brand, or leave it empty.`,
      ),
    );
  return found;
}

export const placeholdersCheck: Check = {
  name: "placeholders",
  group: "law",
  label: "the sender’s own name, address and site",
  why: "Readers would write to nobody, and the law wants to know who sends it.",
  design: placeholders,
};
