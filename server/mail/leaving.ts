/** Messages as they leave: signed, and by the relay that is set. */
import { createHash } from "node:crypto";
import { type MessageFactory, Signing, signingDomain } from "~/core/mime";
import type { Septima } from "../septima";
import { currentTurn, signersOf } from "./signing-keys";

/** Signs the messages of one factory. */
export function signingOf(factory: Pick<MessageFactory, "opening">): Signing {
  return new Signing(factory.opening, createHash("sha256"));
}

/**
 * Signs a message for the domain it comes from and hands it over at once: for single ones, apart from any dispatch.
 * @param at milliseconds since 1970
 * @throws RelayError; Refusal when what is sealed cannot be opened
 */
export async function sendSigned(
  septima: Septima,
  signing: Signing,
  envelope: { from: string; to: string },
  message: Uint8Array,
  at: number,
): Promise<void> {
  const signers = await signersOf(septima, signingDomain(envelope.from), await currentTurn(septima));
  await septima.relay.send(envelope, await signing.signed(message, signers, at));
}
