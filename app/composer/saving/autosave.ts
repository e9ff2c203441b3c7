/**
 * Saving as a queue: what changed since the last save goes out as steps, one request at a time. The server answers with
 * what others did meanwhile, which is done here too, under what was typed since.
 *
 * It knows nothing of the screen or of time: the design, the wire, the browser's store and the clock are given to it.
 */
import { type Email, same } from "~/core/email";
import { type Clash, difference, fingerprint, type Packed, pack, rebase, unpack } from "~/core/steps";
import type { SaveAnswer, SaveRequest } from "~/server/campaigns/saving";
import type { Question, Saving } from "../state/saving";

/** What is kept in the browser until the server has it. */
export interface Kept {
  revision: number;
  /** The design of that revision, and what was changed since. */
  base: Email;
  steps: Packed[];
  /** A request whose answer is not there yet: it may have been saved, or not. */
  sent: { save: string; steps: Packed[] } | null;
  questions: Question[];
}

/** What the autosave works on. */
export interface SavingHost {
  read(): Email;
  /** Takes over what came from elsewhere, under what is being typed. */
  write(email: Email): void;
  say(saving: Saving): void;
  ask(questions: readonly Clash[], mine: Email): void;
  /** Says that two windows put the same parts in another order. */
  noteOrder(): void;
  questions(): readonly Question[];
}

/** The way to the server. Every promise that fails means: no answer that makes sense came. */
export interface Wire {
  save(request: SaveRequest): Promise<SaveAnswer>;
  whole(): Promise<{ email: Email; revision: number; at: string }>;
}

export interface Keep {
  /** Keeps it; false when there is no room. */
  put(kept: Kept): boolean;
  drop(): void;
}

export interface Clock {
  later(ms: number, work: () => void): () => void;
}

const QUIET = 600;
const KEEP_AFTER = 150;
/** The pauses between tries grow up to this, in milliseconds. */
const LONGEST = 20_000;

export class Autosave {
  private sent: { save: string; email: Email; steps: Packed[] } | null = null;
  private busy: Promise<void> | null = null;
  private cancel: (() => void) | null = null;
  private cancelKeep: (() => void) | null = null;
  private failures = 0;
  private locked = false;
  private unkept = false;
  private saving: Saving;

  constructor(
    private base: Email,
    private revision: number,
    at: string,
    private readonly given: { host: SavingHost; wire: Wire; keep: Keep; clock: Clock; newId(): string },
  ) {
    this.saving = { state: "saved", at };
  }

  /** Goes on from what an earlier window left: the host is to read the design it gives. */
  static resume(kept: Kept): { email: Email; sentEmail: Email | null } {
    const { email } = unpack(kept.base, kept.steps);
    return { email, sentEmail: kept.sent && unpack(kept.base, kept.sent.steps).email };
  }

  /** Takes up a request of an earlier window whose answer never came. */
  takeUp(sent: { save: string; email: Email; steps: Packed[] }): void {
    this.sent = sent;
  }

  /** Whether the server has everything. */
  get clean(): boolean {
    return this.sent === null && same(this.given.host.read(), this.base);
  }

  /** Whether leaving would lose something: it is neither on the server nor kept in the browser. */
  get atRisk(): boolean {
    return !this.clean && !this.keepNow();
  }

  /** Says that the design was changed. */
  changed(): void {
    this.cancelKeep ??= this.given.clock.later(KEEP_AFTER, () => this.keepNow());
    if (this.locked) return;
    if (this.saving.state === "saved" || this.saving.state === "refused") this.say("waiting");
    if (this.saving.state !== "away") this.plan(QUIET);
  }

  /** Saves everything there is, now. Says whether the server has it. */
  async flush(): Promise<boolean> {
    for (;;) {
      this.cancel?.();
      this.cancel = null;
      this.busy ??= this.turn().finally(() => {
        this.busy = null;
      });
      await this.busy;
      if (this.clean) return true;
      if (this.saving.state === "away" || this.saving.state === "refused") return false;
    }
  }

  /** Hears that there is a revision: what of it is not here is asked for, or comes with the save that is due. */
  async heard(revision: number): Promise<void> {
    while (this.busy) await this.busy;
    if (revision > this.revision) await this.pull();
  }

  /** Asks for what others saved. */
  async pull(): Promise<void> {
    if (this.busy || !this.clean) return;
    this.sent = { save: this.given.newId(), email: this.base, steps: [] };
    await this.flush();
  }

  /** Keeps what the server does not have yet. Says whether there was room. */
  keepNow(): boolean {
    this.cancelKeep?.();
    this.cancelKeep = null;
    const { host, keep } = this.given;
    const questions = [...host.questions()];
    if (this.clean && questions.length === 0) {
      keep.drop();
      this.unkept = false;
      return true;
    }
    const kept = keep.put({
      revision: this.revision,
      base: this.base,
      steps: pack(difference(this.base, host.read())),
      sent: this.sent && { save: this.sent.save, steps: this.sent.steps },
      questions,
    });
    if (kept === this.unkept) {
      this.unkept = !kept;
      this.say(this.saving.state, this.saving.why);
    }
    return kept;
  }

  /** Ends; what is not saved stays kept in the browser. */
  stop(): void {
    this.cancel?.();
    this.cancel = null;
    this.keepNow();
  }

  private say(state: Saving["state"], why?: string, at = this.saving.at): void {
    this.saving = { state, at, ...(why !== undefined && { why }), ...(this.unkept && { unkept: true }) };
    this.given.host.say(this.saving);
  }

  private plan(ms: number): void {
    this.cancel?.();
    this.cancel = this.given.clock.later(ms, () => {
      this.cancel = null;
      void this.flush();
    });
  }

  private async turn(): Promise<void> {
    const { host, wire, newId } = this.given;
    if (!this.sent) {
      const email = host.read();
      const steps = difference(this.base, email);
      if (steps.length === 0) {
        this.say("saved");
        this.keepNow();
        return;
      }
      this.sent = { save: newId(), email, steps: pack(steps) };
    }
    const sent = this.sent;
    this.keepNow();
    this.say("saving");
    let answer: SaveAnswer;
    try {
      answer = await wire.save({ revision: this.revision, save: sent.save, steps: sent.steps });
      if (answer.state === "saved" && answer.revision < this.revision) throw new Error("an older revision");
      if (answer.state === "saved") {
        const { email: saved } = unpack(sent.email, answer.theirs);
        if (fingerprint(saved) === answer.fingerprint) {
          if (answer.reordered) host.noteOrder();
          this.accept(sent.email, saved, answer.clashes, answer);
          return;
        }
        // The two sides do not mean the same by it: all of it is fetched instead.
        const whole = await wire.whole();
        if (whole.revision >= answer.revision) {
          this.accept(sent.email, whole.email, answer.clashes, whole);
          return;
        }
        // It was never kept, whatever was said.
        answer = { state: "behind", ...whole };
      }
    } catch {
      this.failures++;
      this.say("away");
      this.plan(Math.min(LONGEST, 2000 * 2 ** Math.min(this.failures, 6)));
      return;
    }
    this.failures = 0;
    if (answer.state === "refused") {
      this.sent = null;
      this.locked = answer.locked;
      this.say("refused", answer.why);
      this.keepNow();
      return;
    }
    if (answer.state === "behind") this.accept(this.base, answer.email, [], answer);
  }

  /** Goes on from what is saved: what was done here since `from` is done on it. */
  private accept(
    from: Email,
    saved: Email,
    clashes: readonly Clash[],
    { revision, at }: { revision: number; at: string },
  ): void {
    const { host } = this.given;
    const mine = host.read();
    const sent = this.sent?.email ?? mine;
    this.failures = 0;
    this.base = saved;
    this.revision = revision;
    this.sent = null;
    if (saved === from) {
      if (clashes.length > 0) host.ask(clashes, sent);
    } else {
      const merged = rebase(saved, difference(from, mine));
      if (merged.email !== mine) host.write(same(merged.email, mine) ? mine : merged.email);
      const all = [...clashes, ...merged.clashes];
      if (all.length > 0) host.ask(all, mine);
    }
    this.say(this.clean ? "saved" : "waiting", undefined, at);
    this.keepNow();
  }
}
