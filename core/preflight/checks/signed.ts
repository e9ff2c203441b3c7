import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { stops } from "../finding";

/** What is said of domains for which nothing signs; null where there are none. */
export function notSigned(domains: readonly string[]): string | null {
  if (domains.length === 0) return null;
  return `Nothing signs messages from ${domains.join(" and ")}, and receivers take them for forged. Make keys for ${
    domains.length === 1 ? "it" : "them"
  } in Settings, under Sending, or say there that the relay signs.`;
}

function unsigned({ unsigned: domains = [], sealed = null }: Circumstances): Finding[] {
  return [notSigned(domains), sealed].flatMap((words) => (words === null ? [] : [stops(words)]));
}

export const signedCheck: Check = {
  name: "signed",
  group: "law",
  label: "the signature of the sender’s domain",
  why: "Receivers take what nobody signs for forged: it ends among spam, or nowhere.",
  design: (_, around) => unsigned(around),
};
