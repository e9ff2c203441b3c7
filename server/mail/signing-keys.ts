/** The keys that sign for the domains letters come from: made, published, exchanged. */
import { createHash, createPrivateKey, generateKeyPair, type KeyObject, randomInt, sign } from "node:crypto";
import { promisify } from "node:util";
import { z } from "zod";
import {
  keyRecord,
  SIGNING_ALGORITHMS,
  type Signer,
  type SigningAlgorithm,
  signingDomain,
} from "~/core/mime";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import { breakSeal, seal, sealTrouble, unseal } from "../seal";
import { cached, type Septima } from "../septima";
import { brandOf, cachedSetting, writeSetting } from "../workspace/settings";
import { askRecord, type Seen, SeenSchema } from "./dns";

/** Whether a key does not sign yet, signs, or does not sign any more. */
export type KeyStage = "waiting" | "signing" | "retired";

/** A key as Settings show it; its private half is shown to nobody. */
export interface SigningKey {
  id: string;
  domain: string;
  selector: string;
  algorithm: SigningAlgorithm;
  stage: KeyStage;
  /** ISO. */
  madeAt: string;
  /** What is to be published. */
  record: { name: string; text: string };
  seen: Seen | null;
}

const generate = promisify(generateKeyPair);
/** As many bits as receivers want (RFC 8301, 3.2). */
const RSA_BITS = 2048;

const RelaySigns = z.array(z.string());

/** The domains for which the relay signs. */
export function relaySignsFor(septima: Septima): Promise<string[]> {
  return cachedSetting(septima, "relay signs", RelaySigns, []);
}

/** Says whether the relay signs for a domain. */
export async function setRelaySigns(septima: Septima, domain: string, signs: boolean): Promise<void> {
  const those = new Set(await relaySignsFor(septima));
  if (signs) those.add(asDomain(domain));
  else those.delete(asDomain(domain));
  await writeSetting(septima, "relay signs", [...those]);
}

/** A domain as it is written in the DNS. @throws Refusal when it is none */
export function asDomain(words: string): string {
  const domain = words.trim().toLowerCase();
  const ascii = URL.canParse(`http://${domain}/`) ? new URL(`http://${domain}/`).hostname : "";
  if (!/^([a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?\.)+[a-z][a-z0-9-]*[a-z0-9]$/.test(ascii) || ascii.length > 200)
    throw new Refusal(`“${words.trim()}” is no domain. Write it as it stands behind the @ of an address.`);
  return ascii;
}

/** All keys, those that sign first. */
export async function signingKeys(septima: Septima): Promise<SigningKey[]> {
  const rows = await septima.db.query<{
    id: string;
    domain: string;
    selector: string;
    algorithm: SigningAlgorithm;
    public: string;
    stage: KeyStage;
    made_at: Date;
    seen: unknown;
  }>(
    `select id, domain, selector, algorithm, public, made_at, seen,
       case when signs_from is null then 'waiting' when signs_until is null then 'signing' else 'retired' end as stage
     from signing_keys
     order by domain, (signs_until is not null), (signs_from is null), algorithm desc, made_at desc`,
  );
  return rows.map(({ public: published, made_at, seen, ...key }) => ({
    ...key,
    madeAt: made_at.toISOString(),
    record: keyRecord({ ...key, public: published }),
    seen: seen === null ? null : SeenSchema.parse(seen),
  }));
}

/** Letters that are not taken for one another, for names that somebody may have to type. */
const LETTERS = "abcdefghjkmnpqrstuvwxyz";
const newSelector = () =>
  `septima-${Array.from({ length: 6 }, () => LETTERS[randomInt(LETTERS.length)]).join("")}`;

/** Both halves of a new key: the public one as the DNS has it. */
async function newPair(algorithm: SigningAlgorithm): Promise<{ published: string; pem: string }> {
  const { publicKey, privateKey }: { publicKey: KeyObject; privateKey: KeyObject } =
    algorithm === "rsa-sha256"
      ? await generate("rsa", { modulusLength: RSA_BITS })
      : await generate("ed25519");
  const der = publicKey.export({ type: "spki", format: "der" });
  return {
    // Of an Ed25519 key the 32 octets themselves (RFC 8463, 4).
    published: (algorithm === "rsa-sha256" ? der : der.subarray(-32)).toString("base64"),
    pem: privateKey.export({ type: "pkcs8", format: "pem" }) as string,
  };
}

/** Begins a turn of the keys: one after the other, so that whoever sees its number sees all of what it changes. */
async function newTurn(tx: Queries): Promise<number> {
  await tx.query("lock table key_turns in exclusive mode");
  const [{ number }] = await tx.query<{ number: number }>(
    "insert into key_turns (number, at) select coalesce(max(number), 0) + 1, clock_timestamp() from key_turns returning number",
  );
  return number;
}

/**
 * Makes a key of each kind for a domain; RSA for all receivers, Ed25519 for newer ones, which costs a tenth. They sign at once where none of their kind does; otherwise they wait until they
 * are published and take over.
 * @throws Refusal when it is no domain, some wait already, or what is sealed cannot be opened
 */
export async function makeKeys(
  septima: Septima,
  words: string,
  kinds: readonly SigningAlgorithm[] = SIGNING_ALGORITHMS,
): Promise<void> {
  const domain = asDomain(words);
  const pairs = await Promise.all(
    kinds.map(async (algorithm) => {
      const { published, pem } = await newPair(algorithm);
      return { algorithm, published, sealed: await seal(septima, pem) };
    }),
  );
  await septima.db.transaction(async (tx) => {
    const turn = await newTurn(tx);
    const there = await tx.query<{ algorithm: string; waits: boolean }>(
      "select algorithm, signs_from is null as waits from signing_keys where domain = $1 and signs_until is null",
      [domain],
    );
    if (there.some(({ waits }) => waits))
      throw new Refusal(
        `New keys for ${domain} wait already. Publish their records and let them sign, or throw them away.`,
        409,
      );
    for (const { algorithm, published, sealed } of pairs)
      await tx.query(
        `insert into signing_keys (id, domain, selector, algorithm, public, private, made_at, signs_from)
         values ($1, $2, $3, $4, $5, $6, $7, $8)`,
        [
          septima.newId(),
          domain,
          newSelector(),
          algorithm,
          published,
          sealed,
          new Date(septima.now()),
          there.some((one) => one.algorithm === algorithm) ? null : turn,
        ],
      );
  });
}

/** Lets a key sign; the one of its kind that did for the domain does not any more. @throws Refusal when it does not wait */
export async function letSign(septima: Septima, id: string): Promise<void> {
  await septima.db.transaction(async (tx) => {
    const turn = await newTurn(tx);
    const [key] = await tx.query<{ domain: string; algorithm: string }>(
      "select domain, algorithm from signing_keys where id = $1 and signs_from is null",
      [id],
    );
    if (!key) throw new Refusal("This key does not wait any more. Look at the keys again.", 409);
    await tx.query(
      `update signing_keys set signs_until = $3
       where domain = $1 and algorithm = $2 and signs_from is not null and signs_until is null`,
      [key.domain, key.algorithm, turn],
    );
    await tx.query("update signing_keys set signs_from = $2 where id = $1", [id, turn]);
  });
}

/** Takes a key from its work, or throws one away that waits: what it has signed can be shown as it was sent. */
export async function retireKey(septima: Septima, id: string): Promise<void> {
  await septima.db.transaction(async (tx) => {
    const turn = await newTurn(tx);
    await tx.query("delete from signing_keys where id = $1 and signs_from is null", [id]);
    await tx.query("update signing_keys set signs_until = $2 where id = $1 and signs_until is null", [
      id,
      turn,
    ]);
  });
}

/**
 * Gives up all that is sealed, where the key to it is lost: nothing signs any more, and the relay's password is gone. What
 * the keys have signed cannot be shown as it was sent.
 */
export async function giveUpSealed(septima: Septima): Promise<void> {
  await septima.db.transaction(async (tx) => {
    const turn = await newTurn(tx);
    await tx.query("delete from signing_keys where signs_from is null");
    await tx.query("update signing_keys set signs_until = $1 where signs_until is null", [turn]);
    await tx.query("update signing_keys set private = ''");
    await tx.query("update settings set value = value || '{\"password\": null}' where key = 'relay'");
    await breakSeal(tx);
  });
  septima.cache.clear();
}

/** Asks the DNS whether a key is published as it should be, and keeps the answer with it. @throws Refusal when it is gone */
export async function checkKey(septima: Septima, id: string): Promise<Seen> {
  const key = (await signingKeys(septima)).find((one) => one.id === id);
  if (!key) throw new Refusal("This key is not there any more.", 404);
  const seen = await askRecord(septima, key.record);
  await septima.db.query("update signing_keys set seen = $2::jsonb where id = $1", [
    id,
    JSON.stringify(seen),
  ]);
  return seen;
}

/** For these domains messages are signed, by us or by the relay. */
export async function signedDomains(septima: Septima): Promise<Set<string>> {
  const rows = await septima.db.query<{ domain: string }>(
    "select distinct domain from signing_keys where signs_from is not null and signs_until is null",
  );
  return new Set([...rows.map(({ domain }) => domain), ...(await relaySignsFor(septima))]);
}

/** As of which turn keys sign now, as a value in SQL. */
export const TURN_SQL = "(select coalesce(max(number), 0) from key_turns)";

/** As of which turn keys sign now. */
export async function currentTurn({ db }: Septima): Promise<number> {
  const [{ turn }] = await db.query<{ turn: number }>(`select ${TURN_SQL} as turn`);
  return turn;
}

/**
 * The keys that sign for the domain of an address as of a turn; none where none did.
 * @throws Refusal when what is sealed cannot be opened
 */
export function signersOf(septima: Septima, domain: string, turn: number): Promise<Signer[]> {
  // What signed as of a turn stays what it was.
  return cached(septima, `signers ${turn} ${domain}`, async () => {
    const rows = await septima.db.query<{
      selector: string;
      algorithm: SigningAlgorithm;
      private: string;
    }>(
      `select selector, algorithm, private from signing_keys
       where domain = $1 and signs_from <= $2 and (signs_until is null or signs_until > $2) order by algorithm desc`,
      [domain, turn],
    );
    return Promise.all(
      rows.map(async ({ selector, algorithm, private: sealed }) => {
        const key = createPrivateKey(await unseal(septima, sealed));
        return { domain, selector, algorithm, sign: signWith(algorithm, key) };
      }),
    );
  });
}

/** Beside the others of this process: RSA takes about a millisecond of a processor. */
const signApart = promisify(
  (
    how: string | null,
    octets: Uint8Array,
    key: KeyObject,
    done: (error: Error | null, made: Buffer) => void,
  ) => sign(how, octets, key, done),
);

function signWith(algorithm: SigningAlgorithm, key: KeyObject): Signer["sign"] {
  if (algorithm === "rsa-sha256") return (octets) => signApart("sha256", octets, key);
  // Of their SHA-256, not of the octets themselves (RFC 8463, 3).
  return (octets) => signApart(null, createHash("sha256").update(octets).digest(), key);
}

/** A domain letters come from, or did. */
export interface SenderDomain {
  domain: string;
  /** Whether a sender of the brand writes from it. */
  used: boolean;
  /** Who signs its messages; `sealed` where its keys would and cannot be opened. */
  signs: "keys" | "sealed" | "relay" | "nobody";
  keys: SigningKey[];
}

/** The domains of the brand's senders, and others for which something signs or did. */
export async function senderDomains(septima: Septima): Promise<SenderDomain[]> {
  const keys = await signingKeys(septima);
  const relay = await relaySignsFor(septima);
  const { senders } = await brandOf(septima);
  const byKeys = (await sealTrouble(septima)) === null ? "keys" : "sealed";
  const used = new Set(
    senders.map(({ address }) => signingDomain(address)).filter((domain) => domain !== ""),
  );
  const all = new Set([...used, ...relay, ...keys.map(({ domain }) => domain)]);
  return [...all].sort().map((domain) => {
    const own = keys.filter((key) => key.domain === domain);
    const signing = own.some(({ stage }) => stage === "signing");
    return {
      domain,
      used: used.has(domain),
      signs: signing ? byKeys : relay.includes(domain) ? "relay" : "nobody",
      keys: own,
    };
  });
}
