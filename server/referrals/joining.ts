/**
 * How friends join: by a reader's own link to a small page, and by a press in a mail to their own address. Whoever holds
 * a link learns nothing from the answers: they are the same whether an address is known or not.
 */
import { fieldValue, isAddress } from "~/core/audience";
import { FRIENDS } from "~/core/email";
import { type Invitation, put, tongueOf } from "~/core/readers";
import { audienceChanged } from "../audience/answers";
import { contactById } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import type { Queries } from "../db/database";
import { sendNote } from "../mail/note";
import { RelayError } from "../mail/relay";
import { ReadersRefusal } from "../refusal";
import type { Septima } from "../septima";
import { friendAddress, readToken } from "../tokens";
import { brandOf } from "../workspace/settings";
import { type Programme, programmeOf } from "./programme";
import { REWARD_JOB } from "./rewards";

/** So long nobody is asked again, in milliseconds. */
const AGAIN = 24 * 60 * 60 * 1000;
/** So many friends a reader may ask within that time. */
const MOST = 50;

async function running(septima: Septima): Promise<Programme> {
  const programme = await programmeOf(septima);
  if (!programme.on) throw new ReadersRefusal("noJoining");
  return programme;
}

/** What the page says to friends who come by a reader's link. @throws Refusal (404) */
export async function invitation(septima: Septima, token: string): Promise<Invitation> {
  const { title, words, consent } = await running(septima);
  if (token === "preview") return { title, words, consent, by: null };
  const { contact } = await readToken(septima, "join", token);
  const name = fieldValue(await contactById(septima, contact), "first_name");
  return { title, words, consent, by: typeof name === "string" && name !== "" ? name : null };
}

/** Who asks for the letters. */
export interface Friend {
  email: string;
  name: string;
  agreed: boolean;
  /** The languages they read, the most wanted first (BCP 47). */
  languages: readonly string[];
}

/**
 * Sends a friend the mail by which they confirm; nothing to somebody who gets letters already, or was asked lately.
 * @throws Refusal when the address is none, the consent is missing, too many were asked, or the mail cannot leave
 */
export async function askFriend(
  septima: Septima,
  token: string,
  { email, name, agreed, languages }: Friend,
): Promise<void> {
  await running(septima);
  if (token === "preview") return;
  const { contact: referrer } = await readToken(septima, "join", token);
  const address = email.trim();
  if (!isAddress(address)) throw new ReadersRefusal("noAddress", 400);
  if (!agreed) throw new ReadersRefusal("noConsent", 400);
  const now = septima.now();
  const since = new Date(now - AGAIN);
  const [known] = await septima.db.query(
    `select 1 from contacts where lower(email) = lower($1) and (id = $2 or status <> 'unsubscribed')
     union all select 1 from referrals where lower(email) = lower($1) and asked_at > $3`,
    [address, referrer, since],
  );
  if (known) return;
  const [{ asked }] = await septima.db.query<{ asked: number }>(
    "select count(*)::int as asked from referrals where referrer = $1 and asked_at > $2",
    [referrer, since],
  );
  if (asked >= MOST) throw new ReadersRefusal("noMore", 429);
  const first = name.trim().slice(0, 80);
  const [{ id }] = await septima.db.query<{ id: string }>(
    `insert into referrals (id, referrer, email, first_name, asked_at) values ($1, $2, $3, $4, $5)
     on conflict (referrer, (lower(email))) do update set first_name = excluded.first_name, asked_at = excluded.asked_at
     returning id`,
    [septima.newId(), referrer, address, first === "" ? null : first, new Date(now)],
  );
  const { language, words } = tongueOf(...languages);
  const { name: brand } = await brandOf(septima);
  const say = (what: string) => put(what, { brand, name: first });
  try {
    await sendNote(septima, {
      list: "referrals",
      to: address,
      language,
      id: `confirm.${id}.${now}`,
      subject: say(words.mailSubject),
      lines: [
        `${say(first === "" ? words.mailHelloNobody : words.mailHello)} ${say(words.mailWords)}`,
        words.mailPress,
      ],
      button: { words: words.mailButton, href: await friendAddress(septima, id) },
    });
  } catch (error) {
    if (!(error instanceof RelayError)) throw error;
    // They may ask again at once.
    await septima.db.query("update referrals set asked_at = 'epoch' where id = $1", [id]);
    throw new ReadersRefusal("noMail", 503);
  }
}

interface Asked {
  id: string;
  referrer: number;
  email: string;
  first_name: string | null;
  confirmed_at: Date | null;
}

/** Who is about to confirm. @throws Refusal (404) for a link that is none */
export async function asked(septima: Septima, token: string): Promise<{ email: string; confirmed: boolean }> {
  const { campaign: id } = await readToken(septima, "friend", token);
  const [row] = await septima.db.query<Asked>("select * from referrals where id = $1", [id]);
  if (!row) throw new ReadersRefusal("noFriend");
  const [gets] = await septima.db.query(
    "select 1 from contacts where lower(email) = lower($1) and status = 'subscribed'",
    [row.email],
  );
  return { email: row.email, confirmed: row.confirmed_at !== null && gets !== undefined };
}

/**
 * A friend confirms: they become a contact on the programme's list and are counted for whoever brought them, once. What
 * that reader earns by it is written down in the same transaction, and sent soon after. Twice is as once.
 * @throws Refusal (404, 409)
 */
export async function confirmFriend(septima: Septima, token: string): Promise<void> {
  const { list, steps } = await running(septima);
  const { campaign: id } = await readToken(septima, "friend", token);
  const { today } = await audienceContext(septima);
  const at = new Date(septima.now());
  await septima.db.transaction(async (tx) => {
    const [row] = await tx.query<Asked>("select * from referrals where id = $1 for update", [id]);
    if (!row) throw new ReadersRefusal("noFriend");
    // Whoever confirms for another reader meanwhile, or twice, waits.
    await tx.query("select pg_advisory_xact_lock(hashtext(lower($1)))", [row.email]);
    // Whoever confirms for the same reader meanwhile waits for the count.
    await tx.query("select 1 from contacts where id = $1 for update", [row.referrer]);
    const contact = await joined(tx, row, { list, today, at });
    if (contact === null) return;
    // Somebody counts once, for whoever brought them first; whoever left may come back.
    const [counted] = await tx.query(
      "select 1 from referrals where lower(email) = lower($1) and confirmed_at is not null",
      [row.email],
    );
    if (counted) return;
    await tx.query("update referrals set confirmed_at = $2, contact_id = $3 where id = $1", [
      id,
      at,
      contact,
    ]);
    const [{ friends }] = await tx.query<{ friends: number }>(
      "select count(*)::int as friends from referrals where referrer = $1 and confirmed_at is not null",
      [row.referrer],
    );
    await tx.query(
      "update contacts set fields = fields || jsonb_build_object($2::text, $3::int) where id = $1",
      [row.referrer, FRIENDS, friends],
    );
    for (const step of steps.filter((one) => one.at <= friends))
      await tx.query(
        `insert into rewards (contact_id, step, words, batch, earned_at) values ($1, $2, $3, $4, $5)
         on conflict do nothing`,
        [row.referrer, step.id, step.reward, step.batch, at],
      );
  });
  audienceChanged(septima);
  await septima.jobs.ask(REWARD_JOB, {});
}

/** Makes a friend a contact who may be written to; null for one who is that already, and so counts for nobody. */
async function joined(
  tx: Queries,
  { email, first_name: name }: Asked,
  { list, today, at }: { list: string; today: string; at: Date },
): Promise<number | null> {
  const [known] = await tx.query<{ id: number; status: string }>(
    "select id, status from contacts where lower(email) = lower($1) for update",
    [email],
  );
  if (known?.status === "subscribed") return null;
  if (known && known.status !== "unsubscribed") throw new ReadersRefusal("noWriting", 409);
  const consent = { consent_source: "Brought by a friend", consent_date: today };
  const [{ id }] = known
    ? await tx.query<{ id: number }>(
        "update contacts set status = 'subscribed', fields = fields || $2::jsonb where id = $1 returning id",
        [known.id, JSON.stringify(consent)],
      )
    : await tx.query<{ id: number }>(
        "insert into contacts (email, fields, created_at) values ($1, $2::jsonb, $3) returning id",
        [email, JSON.stringify({ ...(name && { first_name: name }), joined: today, ...consent }), at],
      );
  await tx.query("insert into list_members (list_id, contact_id) values ($1, $2) on conflict do nothing", [
    list,
    id,
  ]);
  await tx.query(
    `insert into choices (contact_id, at, what, list_id, campaign_id, way)
     select $1, $2, what, list, null, $4 from (values ('joined', $3::text), ('subscribed', null)) it (what, list)
     where what = 'joined' or $5`,
    [id, at, list, "Brought by a friend", known !== undefined],
  );
  return id;
}
