/** The referral programme: what friends are asked, which list they join, and what readers earn by them. */
import { z } from "zod";
import { FRIENDS, ReferralStepSchema, type TagFacts } from "~/core/email";
import { fieldsOf, saveField } from "../audience/fields";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { cachedSetting, writeSetting } from "../workspace/settings";

export const ProgrammeSchema = z.object({
  on: z.boolean(),
  /** The list that friends join; empty until one is chosen. */
  list: z.string(),
  /** Of the page that friends come to. */
  title: z.string().trim().min(1).max(120),
  words: z.string().trim().max(1000),
  /** What they agree to. */
  consent: z.string().trim().min(1).max(300),
  /** In ascending order. */
  steps: z.array(ReferralStepSchema.extend({ batch: z.string().max(60).nullable() })).max(10),
});
export type Programme = z.infer<typeof ProgrammeSchema>;

const NONE: Programme = {
  on: false,
  list: "",
  title: "Letters worth getting",
  words: "A friend of yours reads our letters and thought you might like them, too.",
  consent: "Yes, write to me by email. I can stop it with one press in every letter.",
  steps: [],
};

const KEY = "referrals";

export function programmeOf(septima: Septima): Promise<Programme> {
  return cachedSetting(septima, KEY, ProgrammeSchema, NONE);
}

/**
 * Keeps the programme, and makes the field that counts friends where it is not there yet.
 * @throws Refusal when it is on without a list, or two steps are at the same number
 */
export async function saveProgramme(septima: Septima, given: Programme): Promise<void> {
  const programme = ProgrammeSchema.parse(given);
  if (programme.on && programme.list === "")
    throw new Refusal("Choose the list that friends join, then switch the programme on.");
  const steps = [...programme.steps].sort((one, other) => one.at - other.at);
  if (steps.some(({ at }, index) => steps[index + 1]?.at === at))
    throw new Refusal("Two rewards are for the same number of friends. Give one of them another.");
  if (!(await fieldsOf(septima)).some(({ key }) => key === FRIENDS))
    await saveField(septima, { key: FRIENDS, label: "Friends who joined", kind: "number" });
  await writeSetting(septima, KEY, { ...programme, steps });
}

/** What designs may say of the programme; nothing while it is off. */
export async function referralFacts(septima: Septima): Promise<Pick<TagFacts, "referrals">> {
  const { on, steps } = await programmeOf(septima);
  return on ? { referrals: steps.map(({ id, at, reward }) => ({ id, at, reward })) } : {};
}

/** How the programme goes. */
export interface ReferralNumbers {
  asked: number;
  confirmed: number;
  /** Rewards that were sent, and those that wait, such as for codes. */
  given: number;
  waiting: number;
  /** Those who brought most, first. */
  readers: { id: number; name: string; email: string; friends: number; open: number }[];
}

export async function referralNumbers(septima: Septima): Promise<ReferralNumbers> {
  const [[all], [rewards], readers] = await Promise.all([
    septima.db.query<{ asked: number; confirmed: number }>(
      "select count(*)::int as asked, count(confirmed_at)::int as confirmed from referrals",
    ),
    septima.db.query<{ given: number; waiting: number }>(
      "select count(sent_at)::int as given, (count(*) - count(sent_at))::int as waiting from rewards",
    ),
    septima.db.query<ReferralNumbers["readers"][number]>(
      `select c.id, c.email, trim(concat(c.fields ->> 'first_name', ' ', c.fields ->> 'last_name')) as name,
         count(r.confirmed_at)::int as friends, (count(*) - count(r.confirmed_at))::int as open
       from referrals r join contacts c on c.id = r.referrer
       group by c.id order by friends desc, open desc, c.id limit 50`,
    ),
  ]);
  return { ...all, ...rewards, readers };
}
