/**
 * Work on what strangers wrote, confined: in processes of their own, with so much time and memory and no more, so
 * that the server answers everybody else meanwhile and outlives whatever it is given.
 *
 * Processes and not threads: a thread's memory outside the heap has no limit, and some allocations that fail in a
 * thread end the whole process (`docs/decisions/0013-confined-reading.md`).
 */
import { type ChildProcess, fork } from "node:child_process";
import { readFileSync } from "node:fs";
import { setPriority } from "node:os";
import { deserialize } from "node:v8";
import { Refusal } from "../refusal";
import type { Tasks } from "./tasks";

export interface Limits {
  /** How long one task may take, in milliseconds of the processor's time where the system says how much it had. */
  ms: number;
  /** How much memory a process may take, in bytes. */
  bytes: number;
  /** How many processes there may be. */
  atOnce: number;
  /** How long a process is kept without work, in milliseconds. */
  idle: number;
}

export type Request = { [Name in keyof Tasks]: { task: Name; given: Parameters<Tasks[Name]> } }[keyof Tasks];
export type Answer = { done: Buffer } | { refused: string } | { failed: string };

export interface Confined {
  /**
   * Runs a task, when its turn has come.
   * @throws Refusal when the task refuses, when it takes too much time or memory, or when it fails
   */
  run<Name extends keyof Tasks>(
    task: Name,
    ...given: Parameters<Tasks[Name]>
  ): Promise<Awaited<ReturnType<Tasks[Name]>>>;
  /** Ends the processes; what they are at is refused. */
  close(): Promise<void>;
}

const PASSED_ON = ["NODE_ENV", "PATH", "HOME", "TMPDIR", "TMP", "TEMP"];

/** How long a process may take to be there, in milliseconds: it loads the readers. */
const START = 30_000;
/** So many times as long as it may work it may wait for its turn, on a machine that is busy with others. */
const PATIENCE = 8;
/** How far behind the server a process stands: far enough that others are answered first, and not so far that it starves. */
const BEHIND = 5;

export const USUAL_LIMITS: Limits = { ms: 10_000, bytes: 512_000_000, atOnce: 2, idle: 30_000 };
/** For what is read piece by piece, which takes long and not much memory: catalogues. */
export const SOURCE_WORK: Limits = { ms: 60_000, bytes: 400_000_000, atOnce: 2, idle: 30_000 };
/** For messages that are made and read back, thousands at a time. */
export const REHEARSAL_WORK: Limits = { ms: 120_000, bytes: 600_000_000, atOnce: 2, idle: 10_000 };
/** For pictures: all of an animation is held at once. */
export const PICTURE_WORK: Limits = { ms: 30_000, bytes: 320_000_000, atOnce: 2, idle: 30_000 };

/** The file the processes run, `child.ts` or what the build made of it, and the options Node takes for it. */
export interface Program {
  file: string;
  options?: readonly string[];
}

/**
 * Confines tasks to processes made when they are needed.
 * @param stretch how many times as long everything may take just now, as while a busy machine starts
 */
export function openConfined(
  program: Program,
  limits: Limits = USUAL_LIMITS,
  stretch: () => number = () => 1,
): Confined {
  const idle: Cell[] = [];
  const cells = new Set<Cell>();
  const waiting: (() => void)[] = [];
  let closed = false;

  async function cell(): Promise<Cell> {
    while (idle.length === 0 && cells.size >= limits.atOnce && !closed)
      await new Promise<void>((resolve) => waiting.push(resolve));
    if (closed) throw new Refusal("Septima is stopping. Try again when it is back.");
    const kept = idle.pop();
    if (kept) return kept;
    const fresh = new Cell(program, limits, stretch, () => {
      cells.delete(fresh);
      if (idle.includes(fresh)) idle.splice(idle.indexOf(fresh), 1);
      waiting.shift()?.();
    });
    cells.add(fresh);
    return fresh;
  }

  return {
    async run(task, ...given) {
      const one = await cell();
      const done = await one.run({ task, given } as Request);
      if (one.alive) {
        idle.push(one);
        waiting.shift()?.();
      }
      if (done instanceof Refusal) throw done;
      return done as never;
    },
    async close() {
      closed = true;
      for (const resolve of waiting.splice(0)) resolve();
      await Promise.all([...cells].map((one) => one.end()));
    },
  };
}

/** One process and what it is at. */
class Cell {
  alive = true;
  private readonly child: ChildProcess;
  private settle: ((answer: unknown) => void) | null = null;
  private timer: NodeJS.Timeout | undefined;
  private late = false;
  private readonly ready: Promise<void>;

  constructor(
    program: Program,
    private readonly limits: Limits,
    private readonly stretch: () => number,
    private readonly onEnd: () => void,
  ) {
    const heap = Math.round((limits.bytes * 0.85) / 1_048_576);
    this.child = fork(program.file, [String(limits.bytes)], {
      execArgv: [...(program.options ?? []), `--max-old-space-size=${heap}`],
      // Of what the environment says, nothing that opens a door: no database's address, no relay's password.
      env: Object.fromEntries(PASSED_ON.map((name) => [name, process.env[name]])),
      serialization: "advanced",
      stdio: ["ignore", "ignore", "ignore", "ipc"],
    });
    // What others wait for goes first.
    try {
      setPriority(this.child.pid ?? 0, BEHIND);
    } catch {
      // Where it may not be done, it goes on as it is.
    }
    this.ready = new Promise((resolve) => this.child.once("message", () => resolve()));
    void this.ready.then(() => this.child.on("message", (answer: Answer) => this.answered(read(answer))));
    this.child.on("error", () =>
      this.ended(new Refusal("It could not be read: no process could be started.")),
    );
    this.child.on("exit", (code, signal) => this.ended(this.whyEnded(code, signal)));
    this.rest();
  }

  /** @returns what came of it, or the refusal */
  run(request: Request): Promise<unknown> {
    this.child.ref();
    this.child.channel?.ref();
    return new Promise((resolve) => {
      this.settle = resolve;
      this.giveTime(START * this.stretch());
      // The time counts anew from when the process is there; one that has ended says so by its end.
      void this.ready.then(() => {
        if (!this.alive) return;
        this.giveTime(this.limits.ms * this.stretch());
        // What is nested too deep cannot be passed on at all.
        try {
          this.child.send(request, () => undefined);
        } catch (error) {
          this.answered(new Refusal(`It could not be read (${(error as Error).message}).`));
        }
      });
    });
  }

  async end(): Promise<void> {
    if (!this.alive) return;
    const gone = new Promise((resolve) => this.child.once("exit", resolve));
    this.child.ref();
    this.child.kill("SIGKILL");
    await gone;
  }

  /** From now on it has its time, and no more: its own where that is known, whatever else the machine is busy with. */
  private giveTime(ms: number): void {
    clearTimeout(this.timer);
    const before = processorTime(this.child.pid);
    const end = Date.now() + PATIENCE * ms;
    const look = (left: number) => {
      this.timer = setTimeout(() => {
        const now = processorTime(this.child.pid);
        const rest = before === null || now === null ? 0 : ms - (now - before);
        if (rest > 0 && Date.now() < end) {
          look(Math.max(50, Math.min(rest, end - Date.now())));
          return;
        }
        this.late = true;
        this.child.kill("SIGKILL");
      }, left);
    };
    look(ms);
  }

  private answered(answer: unknown): void {
    clearTimeout(this.timer);
    this.rest();
    this.settle?.(answer);
    this.settle = null;
  }

  /** Without work it keeps nobody from ending, and goes after a while. */
  private rest(): void {
    this.child.unref();
    this.child.channel?.unref();
    this.timer = setTimeout(() => {
      this.ended(new Refusal("It was not used."));
      this.child.kill("SIGKILL");
    }, this.limits.idle);
    this.timer.unref();
  }

  private ended(why: Refusal): void {
    if (!this.alive) return;
    this.alive = false;
    clearTimeout(this.timer);
    this.settle?.(why);
    this.settle = null;
    this.onEnd();
  }

  private whyEnded(code: number | null, signal: NodeJS.Signals | null): Refusal {
    if (this.late)
      return new Refusal(
        `It takes longer than ${this.limits.ms / 1000} seconds to read, so it was given up. Take a part of it.`,
      );
    // The watch's signal, or the engine's own when its heap is full.
    if (signal === "SIGUSR2" || signal === "SIGABRT" || code === 134)
      return new Refusal(
        `It takes more than ${Math.round(this.limits.bytes / 1_000_000)} MB of memory to read, so it was given up. Take a part of it.`,
      );
    return new Refusal("Reading it broke off. Try again.");
  }
}

/** A tick of the processor's clock, in milliseconds (proc(5)). */
const TICK = 10;

/** How much of the processor's time a process has had, in milliseconds; null where the system does not say. */
function processorTime(pid: number | undefined): number | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, "latin1");
    // Its name, which may hold anything, stands in brackets; user and system time are the 12th and 13th after it.
    const [, , , , , , , , , , , user, system] = stat.slice(stat.lastIndexOf(")") + 2).split(" ");
    return (Number(user) + Number(system)) * TICK;
  } catch {
    return null;
  }
}

function read(answer: Answer): unknown {
  if ("done" in answer) {
    try {
      return deserialize(answer.done);
    } catch (error) {
      return new Refusal(`It could not be read (${(error as Error).message}).`);
    }
  }
  return new Refusal("refused" in answer ? answer.refused : `It could not be read (${answer.failed}).`);
}
