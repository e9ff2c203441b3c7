/** Senders’ addresses that are none. */
import { isAddress } from "../../audience";
import { type Email, hasTyped, lookupNamed, tagsIn } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { finding } from "../said";

/** Senders' addresses from a lookup that are none. */
function senders({ envelope: { sender } }: Email, { tags = {} }: Circumstances): Finding[] {
  return [
    { text: sender.address, where: "The sender’s address" },
    { text: sender.replyTo ?? "", where: "The address for answers" },
  ].flatMap(({ text, where }): Finding[] => {
    if (!hasTyped(text))
      return text === "" || isAddress(text.trim())
        ? []
        : [finding("stops", { where }, `is no email address: “${text}”.`)];
    return tagsIn(text).flatMap((tag): Finding[] => {
      const found = lookupNamed(tag.field, tags.lookups);
      if (!found) return [];
      const { lookup, part } = found;
      const values = [...lookup.cases.map(({ value }) => value), lookup.otherwise].map(
        (value) => (value[part] ?? "").trim() || tag.fallback,
      );
      const wrong = values.find((value) => !hasTyped(value) && !isAddress(value));
      return wrong === undefined
        ? []
        : [
            finding(
              "stops",
              { where },
              `comes from “${lookup.name}”, which says “${wrong}” to some readers: that is no email address.`,
            ),
          ];
    });
  });
}

export const sendersCheck: Check = {
  name: "senders",
  group: "law",
  label: "senders’ addresses",
  why: "A message from an address that is none is not delivered.",
  design: senders,
};
