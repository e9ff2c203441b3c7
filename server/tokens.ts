import { createHmac, timingSafeEqual } from "node:crypto";
import type { SystemAddresses } from "~/core/personal";
import { Refusal } from "./refusal";
import type { Septima } from "./septima";
import { secretOf } from "./workspace/settings";

/** What a signed address is for; a signature for one purpose is worth nothing for another. */
type Purpose = "unsubscribe" | "answer" | "join" | "friend";

/** Makes the signed addresses of readers, once the key is known. @param origin where they lead */
export async function readerAddresses(
  septima: Septima,
  origin: string = septima.config.origin,
): Promise<(contactId: number, campaignId: string) => SystemAddresses> {
  const secret = await secretOf(septima);
  const address = (purpose: Purpose, contactId: number, campaignId: string) =>
    `${origin}/${purpose}/${sign(secret, purpose, contactId, campaignId)}`;
  return (contactId, campaignId) => ({
    unsubscribe: address("unsubscribe", contactId, campaignId),
    answer: address("answer", contactId, campaignId),
    referral: address("join", contactId, campaignId),
  });
}

/** The address by which a friend confirms that they asked for letters. */
export async function friendAddress(septima: Septima, referral: string): Promise<string> {
  return `${septima.config.origin}/join/confirm/${sign(await secretOf(septima), "friend", 0, referral)}`;
}

function sign(secret: string, purpose: Purpose, contactId: number, campaignId: string): string {
  const payload = Buffer.from(`${contactId}.${campaignId}`).toString("base64url");
  return `${payload}.${mac(secret, purpose, payload)}`;
}

function mac(secret: string, purpose: Purpose, payload: string): string {
  return createHmac("sha256", secret).update(`${purpose} ${payload}`).digest("base64url").slice(0, 22);
}

/**
 * Whom and which campaign a signed address belongs to.
 * @throws Refusal (404) for one that was tampered with or signed for something else
 */
export async function readToken(
  septima: Septima,
  purpose: Purpose,
  token: string,
): Promise<{ contact: number; campaign: string }> {
  const [payload = "", signature = ""] = token.split(".");
  const expected = Buffer.from(mac(await secretOf(septima), purpose, payload));
  const given = Buffer.from(signature);
  if (given.length !== expected.length || !timingSafeEqual(given, expected)) {
    throw new Refusal("This link is not complete. Open it from the email once more.", 404);
  }
  const [contact, campaign] = Buffer.from(payload, "base64url").toString().split(".");
  return { contact: Number(contact), campaign };
}
