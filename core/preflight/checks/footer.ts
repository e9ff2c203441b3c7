import { blockType } from "../../blocks";
import { blocksOf, type Email, pathTo } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";

/** Everyone must be able to unsubscribe: the footer may not be hidden, nor anything it stands in. */
function footer(email: Email): Finding[] {
  const block = blocksOf(email).find(({ type }) => blockType(type)?.fixed);
  if (!block) return [{ weight: "stops", text: "The footer with the unsubscribe link is missing." }];
  return pathTo(email, block.id).flatMap((it): Finding[] => {
    if (it.kind === "column" || (!it.node.show && !it.node.hideOn)) return [];
    const what = it.kind === "block" ? "The footer" : `The ${it.kind} around the footer`;
    const how = it.node.show ? "has a rule for who gets it" : `is hidden on ${it.node.hideOn}s`;
    return [
      {
        weight: "stops",
        text: `${what} ${how}. Everyone must get the unsubscribe link, everywhere.`,
        block: block.id,
      },
    ];
  });
}

export const footerCheck: Check = {
  name: "footer",
  group: "law",
  label: "the footer with the unsubscribe link",
  why: "The law and every large mail program want a way out in each message.",
  design: footer,
};
