import { afterAll, beforeAll, expect, test } from "vitest";
import { type Jobs, startJobs } from "./jobs";
import { openWorld } from "./test-world";

let jobs: Jobs;
let close: () => Promise<void>;
beforeAll(async () => {
  const world = await openWorld();
  jobs = await startJobs(world.septima.db, (error) => {
    throw error;
  });
  close = async () => {
    await jobs.stop();
    await world.close();
  };
});
afterAll(() => close());

test("a job that is asked for is done at once, however seldom it is looked for those whose time has come", async () => {
  const done: string[] = [];
  await jobs.work("count", async ({ word }) => {
    done.push(word);
  });
  // The first may be found by looking; for the others it is too soon to look again.
  for (const word of ["one", "two", "three"]) {
    await jobs.ask("count", { word });
    await expect.poll(() => done.at(-1), { timeout: 5000 }).toBe(word);
  }
  await jobs.ask("count", { word: "later" }, Date.now() + 3_600_000);
  await jobs.ask("count", { word: "four" });
  await expect.poll(() => done.at(-1), { timeout: 5000 }).toBe("four");
  expect(done).toEqual(["one", "two", "three", "four"]);
});
