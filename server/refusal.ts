import { type Said, WORDS } from "~/core/readers";

/** Something the user asked for cannot be done; the message says what and how to mend it. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: 400 | 404 | 409 | 413 | 429 | 503 = 400,
  ) {
    super(message);
    this.name = "Refusal";
  }
}

/** A refusal that a reader is told, in their language; its message is in English. */
export class ReadersRefusal extends Refusal {
  constructor(
    readonly said: Said,
    status: Refusal["status"] = 404,
  ) {
    super(WORDS.en[said], status);
  }
}
