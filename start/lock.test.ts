import { spawn } from "node:child_process";
import { once } from "node:events";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterEach, beforeEach, expect, test } from "vitest";
import { lockFolder, StartError } from "./lock";

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "septima-lock-"));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

test("a folder belongs to one at a time, and can be taken again when it is free", async () => {
  const free = await lockFolder(folder);
  await expect(lockFolder(folder)).rejects.toThrow(/in use by another Septima/);
  await free();
  await (await lockFolder(folder))();
});

test("a process that was killed leaves the folder free; until then another process is refused", async () => {
  const holder = spawn(
    process.execPath,
    [
      "--import",
      "tsx",
      "-e",
      `import("./start/lock.ts").then(({ lockFolder }) => lockFolder(process.env.FOLDER)).then(() => { console.log("has it"); setInterval(() => {}, 1000); })`,
    ],
    { env: { ...process.env, FOLDER: folder }, stdio: ["ignore", "pipe", "inherit"] },
  );
  await once(holder.stdout, "data");
  await expect(lockFolder(folder)).rejects.toThrow(StartError);
  holder.kill("SIGKILL");
  await once(holder, "exit");
  await (await lockFolder(folder))();
});

test("of many that want a folder left behind by a killed process, one gets it", async () => {
  const left = await lockFolder(folder);
  await left();
  const results = await Promise.allSettled(Array.from({ length: 12 }, () => lockFolder(folder)));
  const got = results.flatMap((result) => (result.status === "fulfilled" ? [result.value] : []));
  expect(got).toHaveLength(1);
  await got[0]();
});

test("a folder with a very long name is locked as well", async () => {
  const deep = path.join(folder, "a".repeat(60), "b".repeat(60));
  const free = await lockFolder(deep);
  await expect(lockFolder(deep)).rejects.toThrow(StartError);
  await free();
});
