import type { Clash } from "~/core/steps";

/** How the design stands towards the server. */
export interface Saving {
  /** `away`: no answer, tried again. `refused`: the server will not have it, `why` says what to do. */
  state: "saved" | "waiting" | "saving" | "away" | "refused";
  /** When it was saved last. */
  at: string;
  why?: string;
  /** Whether the browser's own store is full, so that what is not saved is kept nowhere but in this window. */
  unkept?: boolean;
}

/** A contradiction between two windows, to be decided by hand. The design has what the other one did. */
export interface Question extends Clash {
  key: string;
  /** The design in which I did it, with the part in question; so that it can be put back. */
  node?: unknown;
}
