/** Something the user asked for cannot be done; the message says what and how to mend it. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: 400 | 404 | 409 | 429 | 503 = 400,
  ) {
    super(message);
    this.name = "Refusal";
  }
}
