/** What the demo says to whom from one place: lookups, and the batches of codes of its shop. */
import type { Rule } from "~/core/audience";
import type { Lookup } from "~/core/email";
import type { addBatch } from "~/server/sources/codes";
import { seeded } from "./random";

const is = (field: string, value: string): Rule => ({ kind: "field", field, op: "is", value });

/** A head and shoulders in flat colours: nobody in particular. */
export const portrait = (skin: string, hair: string, coat: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="320" height="320" viewBox="0 0 32 32"><rect width="32" height="32" fill="#DCE7EC"/><path d="M4 32c0-8 5-11 12-11s12 3 12 11z" fill="${coat}"/><rect x="13" y="17" width="6" height="7" rx="3" fill="${skin}"/><path d="M8.500 14c0-6 3-9 7.500-9s7.500 3 7.500 9l-1 3h-13z" fill="${hair}"/><ellipse cx="16" cy="14.500" rx="5.400" ry="6" fill="${skin}"/><path d="M10 12c3-1 5-2 6-4 1.500 2 3.500 3 6 3.500-.5-4-3-5.500-6-5.500s-6 2-6 6z" fill="${hair}"/></svg>`;

/** The people who write for the branches, with the colours of their pictures. */
export const MANAGERS = [
  { branch: "Alderwick", name: "Petra Lindqvist", colours: ["#EBC9AE", "#B5532F", "#2B5C3A"] },
  { branch: "Marl Bay", name: "Idris Okafor", colours: ["#7B4B32", "#2A2024", "#F2B632"] },
  { branch: "Stonecross", name: "Wren Trevanion", colours: ["#F0D5C0", "#6B6570", "#B5532F"] },
  { branch: "Fennimoor", name: "Maren Østergaard", colours: ["#E6BFA0", "#E0C068", "#3B6E8F"] },
] as const;

const addressOf = (name: string) => `${name.split(" ")[0].toLowerCase()}@tansyrow.example`;
const pageOf = (branch: string) => branch.toLowerCase().replace(" ", "-");

/** @param portraits the addresses of pictures by names */
export function demoLookups(portraits: ReadonlyMap<string, string>): Lookup[] {
  return [
    {
      key: "branch_contact",
      name: "Branch contact",
      kind: "person",
      cases: MANAGERS.map(({ branch, name }) => ({
        name: branch,
        when: is("branch", branch),
        value: { name, address: addressOf(name), portrait: portraits.get(name) ?? "" },
      })),
      otherwise: { name: "Tansy Row", address: "letters@tansyrow.example", portrait: "" },
    },
    {
      key: "workshops",
      name: "Workshops page",
      kind: "link",
      cases: MANAGERS.map(({ branch }) => ({
        name: branch,
        when: is("branch", branch),
        value: { address: `https://tansyrow.example/workshops/${pageOf(branch)}` },
      })),
      otherwise: { address: "https://tansyrow.example/workshops" },
    },
    {
      key: "first_outdoors",
      name: "First sowing outdoors",
      kind: "text",
      cases: [
        { name: "Warm zone", when: is("growing_zone", "warm"), value: { text: "from the middle of March" } },
        {
          name: "Mild zone",
          when: is("growing_zone", "mild"),
          value: { text: "in the first week of April" },
        },
        { name: "Cool zone", when: is("growing_zone", "cool"), value: { text: "not before May" } },
      ],
      otherwise: { text: "when the soil is warm to the hand" },
    },
  ];
}

const LETTERS = "ACDEFGHJKLMNPQRTUVWXY34679";

/** So many codes that are all different, the same every time. */
function codes(count: number, stem: string, seed: number): string {
  const random = seeded(seed);
  const all = new Set<string>();
  while (all.size < count) {
    let code = stem;
    for (let sign = 0; sign < 6; sign++) code += random.pick([...LETTERS]);
    all.add(code);
  }
  return [...all].join("\n");
}

/** A batch that is large enough for everybody, and one that is nearly used up. */
export const demoBatches = (year: number): [Parameters<typeof addBatch>[1], string][] => [
  [
    {
      key: "seed_tenth",
      name: "A tenth off seed",
      per: "campaign",
      example: "TANSY-EXAMPLE",
      low: 500,
      ends: `${year + 1}-12-31`,
    },
    codes(15_000, "TANSY-", 7),
  ],
  [
    { key: "bulb_gift", name: "A bag of bulbs", per: "ever", example: "BULBS-EXAMPLE", low: 200, ends: null },
    codes(120, "BULBS-", 11),
  ],
];
