import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import nodemailer from "nodemailer";
import { expect, test } from "vitest";
import { bundled } from "~/server/test-bundle";
import { openPostroomApart } from "./apart";

test("in a thread of its own it takes, shows and gives out messages, and behaves as it is told", async () => {
  const folder = await mkdtemp(path.join(tmpdir(), "septima-postroom-"));
  const file = await bundled("standins/postroom/thread.ts");
  const open = () => openPostroomApart(file, folder, {});
  let postroom = await open();
  const send = (to: string) => {
    const { hostname: host, port } = new URL(postroom.address);
    return nodemailer.createTransport({ host, port: Number(port), ignoreTLS: true }).sendMail({
      from: "a@example.test",
      to,
      subject: "Beds",
      messageId: `<${to}>`,
      text: "über\n.\n",
    });
  };
  try {
    await send("one@example.test");
    await postroom.behave([
      {
        who: "two@example.test",
        does: { kind: "says", at: "reader", reply: "550 5.1.1 No such mailbox", times: null },
      },
    ]);
    await expect(send("two@example.test")).rejects.toThrow("550 5.1.1 No such mailbox");
    const { total, messages } = await postroom.search({ text: "beds", offset: 0, limit: 10 });
    expect(total).toBe(1);
    const source = await postroom.source(messages[0].id);
    expect(source).toBeInstanceOf(Buffer);
    expect(source!.toString("utf8")).toContain("Message-ID: <one@example.test>\r\n");
    expect(await postroom.source("m9")).toBe(null);
    const ids = ["one@example.test", "two@example.test"];
    expect(await postroom.arrivedOrNever(ids)).toEqual(new Set(["one@example.test"]));
    expect(await postroom.living()).toMatchObject({ life: null });
    await postroom.live({ pace: 5, seed: 1 });
    // What it holds and how it behaves is there again when it is opened anew.
    await postroom.close();
    postroom = await open();
    expect((await postroom.search({ text: "", offset: 0, limit: 10 })).total).toBe(1);
    expect(await postroom.manners()).toHaveLength(1);
    expect((await postroom.living()).life).toEqual({ pace: 5, seed: 1 });
    await postroom.empty();
    expect((await postroom.search({ text: "", offset: 0, limit: 10 })).total).toBe(0);
  } finally {
    await postroom.close();
    await rm(folder, { recursive: true, force: true });
  }
});
