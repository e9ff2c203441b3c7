import type { Lookup } from "./lookup";
import type { ReferralStep } from "./referrals";
import type { MergeTag } from "./tag";
import { type NamedItem, targetAddress } from "./targets";

/** A batch of codes as far as a design needs to know it. */
export interface CodeFacts {
  key: string;
  name: string;
  /** What looks and proofs show: no code of the batch. */
  example: string;
  /** The last day its codes are worth something, `YYYY-MM-DD`. */
  ends?: string | null;
}

/** What tags may ask besides the reader. */
export interface Known {
  brand: {
    name: string;
    address: string;
    addresses?: readonly { key: string; text: string }[];
    constants?: readonly { key: string; text: string }[];
  };
  campaign?: { name: string; series: string };
  sender?: { name: string; address: string };
  lookups?: readonly Lookup[];
  codes?: readonly CodeFacts[];
  /** The steps of the referral programme, in ascending order; missing while there is none. */
  referrals?: readonly ReferralStep[];
  /** The items that links name, as their sources have them. */
  items?: readonly NamedItem[];
  /** In which the words around are. */
  language?: string;
  /** Put before picture addresses that start with `/`. */
  origin?: string;
}

/** What begins the name of something that is the same for every reader. */
const CONSTANT = /^(brand|campaign|sender|item)\./;

/** Whether a tag asks for what contacts have, and not for what the workspace, the campaign or the day has. */
export const asksReader = (field: string): boolean =>
  !CONSTANT.test(field) && !/^(code|lookup|date|system)\./.test(field);

/** What a workspace and a campaign have for tags, beside the brand. */
export type TagFacts = Pick<Known, "campaign" | "lookups" | "codes" | "referrals" | "items">;

/** What is the same for every reader, in words; undefined when the tag asks for the reader's. */
export function constantOf(tag: MergeTag, known: Known): string | undefined {
  if (!CONSTANT.test(tag.field)) return undefined;
  const said = tag.of
    ? targetAddress(tag, known.items ?? [], known.origin ?? "")
    : constant(tag.field, known);
  // One that is gone is what the tag falls back to, or a gap that is found before sending.
  return said || tag.fallback || undefined;
}

function constant(field: string, { brand, campaign, sender }: Known): string | undefined {
  const [about, key, ...more] = field.split(".");
  if (about === "campaign") return key === "name" || key === "series" ? campaign?.[key] : undefined;
  if (about === "sender") return key === "name" || key === "address" ? sender?.[key] : undefined;
  if (field === "brand.name") return brand.name;
  if (field === "brand.address") return brand.address;
  return key === "address"
    ? brand.addresses?.find((one) => one.key === more.join("."))?.text
    : brand.constants?.find((one) => one.key === key)?.text;
}
