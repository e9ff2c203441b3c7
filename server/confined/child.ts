/**
 * The confined process: runs one task at a time for its parent and answers with what came of it. A thread of its own
 * watches over it, since a task that does not end lets nothing else of this process have its turn.
 */
import { serialize } from "node:v8";
import { Worker } from "node:worker_threads";
import type { Answer, Request } from "./confined";
import { tasks } from "./tasks";

/** As text, since a thread takes a whole file or a text. SIGUSR2 is the parent's sign that it was the memory. */
const WATCH = `
  const { parent, bytes } = require("node:worker_threads").workerData;
  setInterval(() => {
    if (process.ppid !== parent) process.kill(process.pid, "SIGKILL");
    if (process.memoryUsage.rss() > bytes) process.kill(process.pid, "SIGUSR2");
  }, 10);`;

new Worker(WATCH, {
  eval: true,
  execArgv: [],
  workerData: { parent: process.ppid, bytes: Number(process.argv[2]) },
}).unref();

process.on("disconnect", () => process.exit());
process.on("message", async ({ task, given }: Request) => {
  let answer: Answer;
  try {
    // The caller's types say that the arguments belong to the task.
    const done = await (tasks[task] as (...all: unknown[]) => unknown)(...given);
    answer = { done: serialize(done) };
  } catch (error) {
    const { name, message } = error as Error;
    answer = name === "Refusal" ? { refused: message } : { failed: message };
  }
  process.send?.(answer);
});
process.send?.("ready");
