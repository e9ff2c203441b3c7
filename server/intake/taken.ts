import { randomBytes } from "node:crypto";
import type { Apart } from "~/core/apart";
import type { Block, Email } from "~/core/email";

/** What was taken out of what came in. */
export interface Taken {
  /** What it turned out to be. */
  kind:
    | "text"
    | "Markdown"
    | "HTML"
    | "a complete HTML email"
    | "an email"
    | "a document"
    | "a design of Septima";
  /** Of writing that is no complete letter. */
  blocks: Block[];
  /** Of a complete letter: what it is made of. */
  apart: Apart | null;
  /** A complete email's HTML and style sheets as a code block holds them; null when there is nothing to keep whole. */
  whole: { html: string; sheets: string } | null;
  /** What could not be kept when it is taken apart, and when it is kept whole. */
  lost: { apart: string[]; whole: string[] };
  /** A whole design, with everything in it. */
  email: Email | null;
  /** Pictures that came along; blocks show them under these addresses. */
  pictures: { path: string; name: string; bytes: Uint8Array }[];
  /** Pictures that are named and did not come: files beside it, or parts of an email. */
  missing: string[];
}

export const newId = () => randomBytes(8).toString("hex");

export function plain(kind: Taken["kind"], blocks: Block[]): Taken {
  return {
    kind,
    blocks,
    apart: null,
    whole: null,
    lost: { apart: [], whole: [] },
    email: null,
    pictures: [],
    missing: [],
  };
}
