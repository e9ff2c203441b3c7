/** The autosave against a real server's saving, with a wire that is slow, loses, refuses, lies and dies. */
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { CommandError, changeEmail, commands, placesFor } from "~/core/compose";
import { commandBy } from "~/core/compose/arbitrary";
import { type Block, blocksOf, type Email, findNode } from "~/core/email";
import { startCampaign } from "~/server/campaigns/campaigns";
import { type SaveAnswer, type SaveRequest, savedDesign, saveSteps } from "~/server/campaigns/saving";
import type { Septima } from "~/server/septima";
import { openWorld } from "~/server/test-world";
import type { Question, Saving } from "../state/saving";
import { Autosave, type Kept } from "./autosave";
import { asked } from "./questions";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
afterAll(() => close());

interface Pending {
  request: SaveRequest;
  resolve(answer: SaveAnswer): void;
  reject(error: Error): void;
}

let ids = 0;
const newId = () => `w${ids++}`;
/** Until all that can go on by itself has. */
const settle = async () => {
  for (let turn = 0; turn < 4; turn++) await new Promise((resolve) => setImmediate(resolve));
};

/** A window with a design: its editor, its autosave, its store, and a wire in the test's hands. */
class Window {
  email!: Email;
  saving!: Saving;
  questions: Question[] = [];
  kept: Kept | null = null;
  room = true;
  reordered = false;
  pending: Pending[] = [];
  typed: string[] = [];
  deleted = new Set<string>();
  private timers: (() => void)[] = [];
  autosave!: Autosave;

  constructor(
    readonly campaign: string,
    readonly name: string,
  ) {}

  async open(): Promise<this> {
    // What the window before this one hears no longer matters: it is closed.
    this.pending = [];
    this.timers = [];
    const { kept } = this;
    const saved = await savedDesign(septima, this.campaign);
    const resumed = kept && Autosave.resume(kept);
    this.email = resumed?.email ?? saved.email;
    this.questions = kept?.questions ?? [];
    const host = {
      read: () => this.email,
      write: (email: Email) => {
        if (this.autosave === made) this.email = email;
      },
      say: (saving: Saving) => {
        this.saving = saving;
      },
      ask: (clashes: Parameters<typeof asked>[1], mine: Email) => {
        if (this.autosave === made) this.questions = asked(this.questions, clashes, mine);
      },
      noteOrder: () => {
        this.reordered = true;
      },
      questions: () => this.questions,
    };
    const made: Autosave = new Autosave(
      kept?.base ?? saved.email,
      kept?.revision ?? saved.revision,
      saved.at,
      {
        host,
        wire: {
          save: (request) =>
            new Promise((resolve, reject) => {
              if (this.autosave === made)
                this.pending.push({ request: JSON.parse(JSON.stringify(request)), resolve, reject });
            }),
          whole: () => savedDesign(septima, this.campaign),
        },
        keep: {
          put: (kept) => {
            if (this.autosave === made && this.room) this.kept = JSON.parse(JSON.stringify(kept)) as Kept;
            return this.room;
          },
          drop: () => {
            if (this.autosave === made) this.kept = null;
          },
        },
        clock: {
          later: (_, work) => {
            this.timers.push(work);
            return () => {
              this.timers = this.timers.filter((one) => one !== work);
            };
          },
        },
        newId,
      },
    );
    if (kept?.sent && resumed?.sentEmail) made.takeUp({ ...kept.sent, email: resumed.sentEmail });
    this.autosave = made;
    if (kept) this.autosave.changed();
    return this;
  }

  /** As when the page is left: what is not saved is kept, then everything is gone. */
  async reload(): Promise<void> {
    this.autosave.keepNow();
    await this.open();
  }

  async tick(): Promise<void> {
    const due = this.timers;
    this.timers = [];
    for (const work of due) work();
    await settle();
  }

  change(email: Email): void {
    this.email = email;
    this.autosave.changed();
  }

  /** Writes a word that is its own into a block. */
  type(which: number, at: number): void {
    const blocks = blocksOf(this.email).filter((it) => it.type === "text" || it.type === "heading");
    const block = blocks[which % blocks.length];
    if (!block) return;
    const word = `${this.name}${this.typed.length}z`;
    this.typed.push(word);
    const line = (words: unknown): unknown => {
      const list = words as { type: string; text?: string; content?: unknown[] }[];
      const first = list.find((it) => it.type === "text");
      if (!first?.text) return [{ type: "text", text: word }, ...list];
      const parts = first.text.split(" ");
      parts.splice(at % (parts.length + 1), 0, word);
      return list.map((it) => (it === first ? { ...it, text: parts.join(" ") } : it));
    };
    const content =
      block.type === "heading"
        ? line(block.content)
        : {
            type: "doc",
            content: (block.content as { content: { content?: unknown[] }[] }).content.map((it, index) =>
              index === 0 && "type" in it && it.type === "paragraph"
                ? { ...it, content: line(it.content ?? []) }
                : it,
            ),
          };
    this.change(changeEmail(this.email, commands.setAt(block.id, "content", content)).email);
  }

  /** Adds, moves or takes out a block; words that are seen to go are meant to. */
  build(what: number, which: number, where: number): void {
    const places = placesFor(this.email, { kind: "block" });
    const place = places[where % places.length];
    const blocks = blocksOf(this.email).filter((block) => block.type !== "footer");
    const block = blocks[which % Math.max(1, blocks.length)];
    const command = [
      () => commands.insert(createBlock("text", newId()) as Block, "block", place, newId),
      () => (block ? commands.move(block.id, place, newId) : () => {}),
      () => (block ? commands.remove(block.id) : () => {}),
      () => commandBy(this.email, [13 + (where % 5), where, which], newId),
    ][what % 4]();
    try {
      const next = changeEmail(this.email, command).email;
      if (what % 4 === 2 && block && !findNode(next, block.id))
        for (const [word] of JSON.stringify(block).matchAll(/[ab]\d+z/g)) this.deleted.add(word);
      this.change(next);
    } catch (error) {
      if (!(error instanceof CommandError)) throw error;
    }
  }

  /** What becomes of the request that waits longest. */
  async answer(how: "deliver" | "lose" | "drop" | "refuse" | "lie"): Promise<void> {
    const next = this.pending.shift();
    if (!next) return;
    if (how === "drop") next.reject(new Error("no connection"));
    else if (how === "refuse") next.resolve({ state: "refused", why: "Not now.", locked: false });
    else {
      const answer = await saveSteps(septima, this.campaign, next.request);
      if (how === "lose") next.reject(new Error("no answer"));
      else if (how === "lie" && answer.state === "saved") next.resolve({ ...answer, fingerprint: "0" });
      else next.resolve(answer);
    }
    await settle();
  }

  /** Until everything is saved. */
  async drain(): Promise<void> {
    for (let turn = 0; turn < 50; turn++) {
      if (this.pending.length > 0) await this.answer("deliver");
      else if (!this.autosave.clean) {
        void this.autosave.flush();
        await settle();
      } else return;
    }
    throw new Error(`${this.name} does not come to rest: ${JSON.stringify(this.saving)}`);
  }

  async pull(): Promise<void> {
    void this.autosave.pull();
    await settle();
    await this.drain();
  }
}

const open = async (...names: string[]) => {
  const campaign = await startCampaign(septima, "Two windows", "news");
  return Promise.all(names.map((name) => new Window(campaign, name).open()));
};

test("nobody's words are lost, whatever the wire does and whoever reloads", {
  timeout: 120_000,
}, async () => {
  const side = fc.nat(1);
  const number = fc.nat(60);
  const happening = fc.oneof(
    { weight: 6, arbitrary: fc.tuple(fc.constant("type" as const), side, number, number) },
    { weight: 3, arbitrary: fc.tuple(fc.constant("build" as const), side, number, number) },
    { weight: 4, arbitrary: fc.tuple(fc.constant("tick" as const), side, number, number) },
    { weight: 4, arbitrary: fc.tuple(fc.constant("deliver" as const), side, number, number) },
    {
      weight: 3,
      arbitrary: fc.tuple(
        fc.constantFrom("lose" as const, "drop" as const, "refuse" as const, "lie" as const),
        side,
        number,
        number,
      ),
    },
    { weight: 1, arbitrary: fc.tuple(fc.constant("reload" as const), side, number, number) },
    { weight: 1, arbitrary: fc.tuple(fc.constant("hear" as const), side, number, number) },
  );
  await fc.assert(
    fc.asyncProperty(fc.array(happening, { minLength: 8, maxLength: 40 }), async (happenings) => {
      const windows = await open("a", "b");
      for (const [what, who, one, other] of happenings) {
        const window = windows[who];
        if (what === "type") window.type(one, other);
        else if (what === "build") window.build(one, other, one + other);
        else if (what === "tick") await window.tick();
        else if (what === "reload") await window.reload();
        else if (what === "hear") {
          const { revision } = await savedDesign(septima, window.campaign);
          void window.autosave.heard(revision);
          await settle();
        } else await window.answer(what);
      }
      for (const window of windows) await window.drain();
      for (const window of windows) await window.pull();
      const [a, b] = windows;
      const saved = JSON.parse(JSON.stringify((await savedDesign(septima, a.campaign)).email));
      expect(a.email).toEqual(saved);
      expect(b.email).toEqual(saved);
      const there = JSON.stringify(saved);
      const deleted = new Set([...a.deleted, ...b.deleted]);
      for (const window of windows) {
        const questions = JSON.stringify([...a.questions, ...b.questions]);
        for (const word of window.typed)
          if (!deleted.has(word) && !there.includes(word)) expect(questions).toContain(word);
      }
    }),
    { numRuns: 150 },
  );
});

test("what another saved while one's own save was on its way is asked for after it", async () => {
  const [a, b] = await open("a", "b");
  a.type(0, 0);
  await a.tick();
  // The server has it, but its answer is not there yet when the other one saves and this is told.
  const { request, resolve } = a.pending.shift() as (typeof a.pending)[number];
  const answer = await saveSteps(septima, a.campaign, request);
  b.type(1, 1);
  await b.drain();
  const { revision } = await savedDesign(septima, a.campaign);
  const heard = a.autosave.heard(revision);
  resolve(answer);
  await settle();
  await a.drain();
  await heard;
  expect(a.email).toEqual(b.email);
});

describe("one window", () => {
  test("typing goes out once, a moment later, and what is typed meanwhile with the next request", async () => {
    const [window] = await open("a");
    window.type(0, 0);
    window.type(0, 1);
    expect(window.saving.state).toBe("waiting");
    expect(window.pending).toHaveLength(0);
    await window.tick();
    expect(window.pending).toHaveLength(1);
    window.type(1, 0);
    await window.tick();
    expect(window.pending).toHaveLength(1);
    await window.answer("deliver");
    await window.drain();
    expect(window.saving.state).toBe("saved");
    expect(window.kept).toBeNull();
    expect((await savedDesign(septima, window.campaign)).email).toEqual(window.email);
  });

  test("a slow server holds up leaving until everything is there", async () => {
    const [window] = await open("a");
    window.type(0, 0);
    let left = false;
    const leaving = window.autosave.flush().then((saved) => {
      left = saved;
    });
    await settle();
    expect(left).toBe(false);
    window.type(0, 3);
    await window.answer("deliver");
    expect(left).toBe(false);
    await window.answer("deliver");
    await leaving;
    expect(left).toBe(true);
  });

  test("a dying server: away, kept in the browser, tried again, and the lost answer recognised as its own", async () => {
    const [window] = await open("a");
    window.type(0, 0);
    await window.tick();
    await window.answer("lose");
    expect(window.saving.state).toBe("away");
    expect(window.kept?.sent).not.toBeNull();
    const { revision } = await savedDesign(septima, window.campaign);
    await window.tick();
    await window.drain();
    expect((await savedDesign(septima, window.campaign)).revision).toBe(revision);
    expect(window.saving.state).toBe("saved");
  });

  test("a refusing server says why, and is asked again only when something changes", async () => {
    const [window] = await open("a");
    window.type(0, 0);
    await window.tick();
    await window.answer("refuse");
    expect(window.saving).toMatchObject({ state: "refused", why: "Not now." });
    await window.tick();
    expect(window.pending).toHaveLength(0);
    window.type(0, 1);
    await window.tick();
    expect(window.pending).toHaveLength(1);
    await window.drain();
    expect(window.saving.state).toBe("saved");
  });

  test("a lying server is found out, and the whole design is fetched", async () => {
    const [a, b] = await open("a", "b");
    b.type(0, 0);
    await b.tick();
    await b.drain();
    a.type(1, 0);
    await a.tick();
    await a.answer("lie");
    await a.drain();
    expect(a.email).toEqual(JSON.parse(JSON.stringify((await savedDesign(septima, a.campaign)).email)));
    expect(JSON.stringify(a.email)).toContain("a0z");
    expect(JSON.stringify(a.email)).toContain("b0z");
  });

  test("a lie about a new block costs nothing of what was written into it meanwhile", async () => {
    const [window] = await open("a");
    window.build(0, 0, 0);
    await window.tick();
    const fresh = blocksOf(window.email).findIndex(({ id }) => id.startsWith("w"));
    expect(fresh).toBeGreaterThanOrEqual(0);
    for (let which = 0; which < 8; which++) window.type(which, 0);
    await window.answer("lie");
    await window.drain();
    const saved = JSON.stringify((await savedDesign(septima, window.campaign)).email);
    for (const word of window.typed) expect(saved).toContain(word);
    expect(window.questions).toEqual([]);
  });

  test("a full store is told apart: what is not saved is kept nowhere but here", async () => {
    const [window] = await open("a");
    window.room = false;
    window.type(0, 0);
    await window.tick();
    await window.answer("drop");
    expect(window.saving).toMatchObject({ state: "away", unkept: true });
    expect(window.autosave.atRisk).toBe(true);
    window.room = true;
    expect(window.autosave.atRisk).toBe(false);
    await window.tick();
    await window.drain();
    expect(window.saving.unkept).toBeUndefined();
  });

  test("both sides' new order is said", async () => {
    const [a, b] = await open("a", "b");
    const turned = (email: Email): Email => ({ ...email, sections: [...email.sections].reverse() });
    b.change(turned(b.email));
    await b.drain();
    expect(b.reordered).toBe(false);
    a.change(turned(a.email));
    await a.drain();
    expect(a.reordered).toBe(true);
    expect(a.email).toEqual(b.email);
  });

  test("a question is still there after a reload, until it is settled", async () => {
    const [a, b] = await open("a", "b");
    const subject = (text: string) => commands.setEnvelope({ subject: [{ type: "text", text }] });
    for (const window of [a, b])
      window.change(changeEmail(window.email, subject(`From ${window.name}`)).email);
    await b.drain();
    await a.drain();
    expect(a.questions).toMatchObject([{ path: "envelope/subject" }]);
    await a.reload();
    expect(a.questions).toMatchObject([{ path: "envelope/subject" }]);
    expect(JSON.stringify(a.email.envelope.subject)).toContain("From b");
    a.questions = [];
    a.autosave.keepNow();
    expect(a.kept).toBeNull();
  });
});
