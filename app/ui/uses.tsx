/** What uses something, said in one way wherever it is asked. */
import type { ReactNode } from "react";
import type { Use } from "~/server/mentions";
import { counted } from "./time";

const KINDS: Record<Use["kind"], [one: string, many: string]> = {
  campaign: ["campaign uses it", "campaigns use it"],
  template: ["template uses it", "templates use it"],
  segment: ["segment asks for it", "segments ask for it"],
  lookup: ["lookup uses it", "lookups use it"],
  clipping: ["clipping uses it", "clippings use it"],
  brand: ["brand uses it", "brands use it"],
  referrals: ["referral programme uses it", "referral programmes use it"],
};

/** Where what uses something is looked at; null where that has no page. */
export function pathOfUse({ kind, id }: Use): string | null {
  switch (kind) {
    case "campaign":
    case "template":
      return `/campaigns/${id}/compose`;
    case "segment":
      return `/audience?kind=segment&id=${id}`;
    case "lookup":
      return `/lookups?lookup=${id}`;
    case "clipping":
      return null;
    default:
      return `/${kind}`;
  }
}

/** How many of each kind use it, and what the first of them are called. */
export function Uses({ uses }: { uses: readonly Use[] }): ReactNode {
  if (uses.length === 0) return <p>Nothing uses it.</p>;
  return Object.entries(KINDS).map(([kind, [one, many]]) => {
    const names = uses.filter((use) => use.kind === kind).map(({ name }) => `“${name}”`);
    return names.length === 0 ? null : (
      <p key={kind}>
        {counted(names.length, one, many)}: {names.slice(0, 6).join(", ")}
        {names.length > 6 && ` and ${names.length - 6} more`}.
      </p>
    );
  });
}
