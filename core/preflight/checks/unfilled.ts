/** Tags that stand in a finished message as they are typed. */
import type { Check, Seen } from "../check";
import type { Finding } from "../finding";

function edition({ message, outline }: Seen): Finding[] {
  const places: [string, string][] = [
    ["The subject", message.subject],
    ["The preheader", message.preheader],
    ["The sender’s name", message.senderName],
    ["The text part", message.text],
    ...outline().links.map(({ href }): [string, string] => ["The address of a link", href]),
  ];
  const [found] = places.filter(([, text]) => text.includes("{$"));
  return found
    ? [
        {
          weight: "stops",
          text: `${found[0]} still shows a tag instead of what it stands for. Put the tag in anew, from the menu that @ opens.`,
        },
      ]
    : [];
}

export const unfilledCheck: Check = {
  name: "unfilled",
  group: "message",
  label: "tags that were filled",
  why: "Readers would see the program’s signs instead of their own data.",
  holds: true,
  edition,
};
