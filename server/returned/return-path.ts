/** Where what comes back comes to: a domain of ours, whose mail reaches Septima by one of its doors. */
import { z } from "zod";
import { mailGoes } from "../mail/chosen-relay";
import { asDomain } from "../mail/signing-keys";
import type { Septima } from "../septima";
import { returnPaths } from "../tokens";
import { cachedSetting, writeSetting } from "../workspace/settings";

/** The postroom knows where that is. */
export const POSTROOM_RETURNS = "returns.septima.test";

/** The domain that is set; empty when none is. */
export function returnsSetting(septima: Septima): Promise<string> {
  return cachedSetting(septima, "returns", z.string(), "");
}

/** Sets the domain to which what cannot be delivered comes back; empty for none. @throws Refusal when it is none */
export async function setReturns(septima: Septima, domain: string): Promise<void> {
  await writeSetting(septima, "returns", domain.trim() === "" ? "" : asDomain(domain));
}

/** The domain to which what cannot be delivered comes back now; null where it goes to the sender. */
export async function returnsDomain(septima: Septima): Promise<string | null> {
  const set = await returnsSetting(septima);
  if (set !== "") return set;
  return (await mailGoes(septima)) === "here" ? POSTROOM_RETURNS : null;
}

/**
 * The address on the envelope of each message of a dispatch, by which what comes back is known to be about it.
 * @returns where `from` is the sender's address, which it is where nothing comes back to us
 */
export async function envelopesOf(
  septima: Septima,
  dispatch: string,
): Promise<(contact: number, from: string) => string> {
  const domain = await returnsDomain(septima);
  if (domain === null) return (_, from) => from;
  const local = await returnPaths(septima, dispatch);
  return (contact) => `${local(contact)}@${domain}`;
}
