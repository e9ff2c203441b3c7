/** What the link at the foot of a letter leads to: which topics somebody gets, and none at all. */
import type { ContactStatus } from "~/core/audience";
import type { Preferences } from "~/core/readers";
import { chooseTopics, endSubscription, subscribeAgain, topicsOf, WISHES_NONE } from "../audience/choices";
import { ReadersRefusal } from "../refusal";
import type { Septima } from "../septima";
import { readToken } from "../tokens";

/**
 * Who a link belongs to and what they get. Changes nothing, as RFC 8058 asks of a GET. Whoever was removed sees what they
 * themselves wished: that they were put out of sight is no concern of theirs.
 * @throws Refusal (404) for a link that was tampered with
 */
export async function preferences(septima: Septima, token: string): Promise<Preferences> {
  const { contact } = await readToken(septima, "unsubscribe", token);
  const [row] = await septima.db.query<{ email: string; status: ContactStatus }>(
    `select c.email, case when c.status = 'removed' and not ${WISHES_NONE} then 'subscribed' else
       case when c.status = 'removed' then 'unsubscribed' else c.status end end as status
     from contacts c where c.id = $1`,
    [contact],
  );
  if (!row) throw new ReadersRefusal("noRecord");
  return { ...row, topics: await topicsOf(septima, contact) };
}

/**
 * Unsubscribes the contact of a link, by the page's button or by the one-click POST of RFC 8058. Twice is as once.
 * @throws Refusal (404) for a link that was tampered with
 */
export async function unsubscribe(septima: Septima, token: string, way: "page" | "one-click"): Promise<void> {
  const { contact, campaign } = await readToken(septima, "unsubscribe", token);
  await endSubscription(septima, contact, { campaign, way });
}

/** Takes an unsubscription back, for those who pressed the button by mistake or changed their mind. */
export async function resubscribe(septima: Septima, token: string): Promise<void> {
  const { contact, campaign } = await readToken(septima, "unsubscribe", token);
  await subscribeAgain(septima, contact, { campaign, way: "On the preference page" });
}

/** Keeps which topics the contact of a link wants. */
export async function prefer(septima: Septima, token: string, topics: readonly string[]): Promise<void> {
  const { contact, campaign } = await readToken(septima, "unsubscribe", token);
  await chooseTopics(septima, contact, topics, { campaign, way: "On the preference page" });
}
