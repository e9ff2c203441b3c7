import { audienceChanged } from "./audience/contacts";
import { Refusal, type Septima } from "./septima";
import { readToken } from "./tokens";

/**
 * Who a link belongs to and whether they still get email. Changes nothing, as RFC 8058 asks of a GET.
 * @throws Refusal (404) for a link that was tampered with
 */
export async function unsubscribeFacts(
  septima: Septima,
  token: string,
): Promise<{ email: string; subscribed: boolean }> {
  const { contact } = await readToken(septima, "unsubscribe", token);
  const [row] = await septima.db.query<{ email: string; status: string }>(
    "select email, status from contacts where id = $1",
    [contact],
  );
  if (!row) throw new Refusal("This address is not in our records any more.", 404);
  return { email: row.email, subscribed: row.status === "subscribed" };
}

/**
 * Unsubscribes the contact of a link, by the page's button or by the one-click POST of RFC 8058. Twice is as once.
 * @throws Refusal (404) for a link that was tampered with
 */
export async function unsubscribe(septima: Septima, token: string, way: "page" | "one-click"): Promise<void> {
  const { contact, campaign } = await readToken(septima, "unsubscribe", token);
  await septima.db.transaction(async (tx) => {
    const rows = await tx.query(
      "update contacts set status = 'unsubscribed' where id = $1 and status = 'subscribed' returning id",
      [contact],
    );
    if (rows.length > 0) {
      await tx.query("insert into unsubscribes (contact_id, campaign_id, way, at) values ($1, $2, $3, $4)", [
        contact,
        campaign,
        way,
        new Date(septima.now()),
      ]);
    }
  });
  audienceChanged(septima);
}

/** Takes an unsubscription back, for those who pressed the button by mistake. */
export async function resubscribe(septima: Septima, token: string): Promise<void> {
  const { contact } = await readToken(septima, "unsubscribe", token);
  await septima.db.query(
    "update contacts set status = 'subscribed' where id = $1 and status = 'unsubscribed'",
    [contact],
  );
  audienceChanged(septima);
}
