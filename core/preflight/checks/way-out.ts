/** The way out and the postal address, in every edition and on every device. */
import type { Check, Seen } from "../check";
import type { Circumstances, Finding } from "../finding";
import { inWords } from "../said";

function edition(seen: Seen, { brand, email }: Circumstances & { email: { only?: string } }): Finding[] {
  if (email.only === "text") return [];
  const [first] = brand.address.split("\n").map((line) => line.trim());
  if (first === "") return [];
  const devices = [
    ["on a desktop", () => seen.pairs("light")],
    ["on a phone", seen.phonePairs],
    ["in dark", () => seen.pairs("dark")],
  ] as const;
  const missing = devices.flatMap(([where, pairs]) =>
    pairs().some(({ kind, words }) => kind === "words" && words.includes(first)) ? [] : [where],
  );
  if (missing.length === 0) return [];
  return [
    {
      weight: "stops",
      text: `The postal address is not to be seen ${inWords(missing)}. The law wants it in each message: show it in the footer.`,
    },
  ];
}

export const wayOutCheck: Check = {
  name: "way-out",
  group: "law",
  label: "unsubscribing and the postal address on every device",
  why: "The law wants both to be seen by everybody, and whoever finds no way out calls it spam.",
  holds: true,
  edition,
};
