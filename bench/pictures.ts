/**
 * Pictures, on the running program: fifty photographs taken in, variants made, twenty made lighter, and whether others
 * are answered meanwhile. The reference is the image library alone, doing the same in this process.
 */
import { readdirSync, readFileSync } from "node:fs";
import sharp from "sharp";
import { newStep } from "~/core/pictures";
import { startProgram } from "~/e2e/program";
import type { Line } from "./line";

/** A photograph of twelve megapixels that is like no other. */
async function photograph(seed: number): Promise<Buffer> {
  const grain = await sharp({
    create: {
      width: 1000,
      height: 750,
      channels: 3,
      background: "#000",
      noise: { type: "gaussian", mean: 128, sigma: 12 },
    },
  })
    .png()
    .toBuffer();
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="750"><defs><linearGradient id="g" x2="1" y2="1"><stop stop-color="hsl(${seed * 37} 40% 70%)"/><stop offset="1" stop-color="hsl(${seed * 61} 50% 25%)"/></linearGradient></defs><rect width="1000" height="750" fill="url(#g)" opacity=".8"/></svg>`;
  return sharp(grain)
    .composite([{ input: Buffer.from(svg) }])
    .resize(4000, 3000)
    .jpeg({ quality: 88 })
    .toBuffer();
}

const seconds = async (work: () => Promise<unknown>) => {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
};

/** Does something for each, a few at a time. */
async function each<T>(all: readonly T[], atOnce: number, work: (one: T) => Promise<unknown>): Promise<void> {
  const left = [...all];
  const worker = async () => {
    for (let one = left.shift(); one !== undefined; one = left.shift()) await work(one);
  };
  await Promise.all(Array.from({ length: atOnce }, worker));
}

/** Octets that the processes of a program hold, its children's too; what several share counts once. */
function memoryOf(data: string): number {
  let sum = 0;
  for (const entry of readdirSync("/proc").filter((name) => /^\d+$/.test(name))) {
    try {
      const command =
        readFileSync(`/proc/${entry}/environ`, "latin1") + readFileSync(`/proc/${entry}/cmdline`, "latin1");
      if (!command.includes(data) && !command.includes("confined.js")) continue;
      const rollup = readFileSync(`/proc/${entry}/smaps_rollup`, "latin1");
      sum += Number(/^Pss:\s+(\d+)/m.exec(rollup)?.[1] ?? 0) * 1024;
    } catch {
      // It has ended meanwhile.
    }
  }
  return sum;
}

export async function pictureLines(): Promise<Line[]> {
  const program = await startProgram({ contacts: 100 });
  try {
    const { address } = program;
    const photographs = await Promise.all(Array.from({ length: 50 }, (_, seed) => photograph(seed)));
    let slowest = 0;
    let most = 0;
    let over = false;
    const watch = (async () => {
      while (!over) {
        slowest = Math.max(
          slowest,
          await seconds(() => fetch(`${address}/healthz`).then((answer) => answer.text())),
        );
        most = Math.max(most, memoryOf(program.data));
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    })();
    const taken: { id: string; path: string }[] = [];
    const upload = await seconds(() =>
      each([...photographs.entries()], 3, async ([index, data]) => {
        const answer = await fetch(`${address}/pictures/take?name=${index}.jpg`, {
          method: "POST",
          headers: { "content-type": "application/octet-stream" },
          body: new Uint8Array(data),
        });
        taken.push(((await answer.json()) as { result: { id: string; path: string } }).result);
      }),
    );
    over = true;
    await watch;
    const alone = await seconds(() =>
      each(photographs, 2, (data) =>
        sharp(data).autoOrient().resize({ width: 1400 }).jpeg({ quality: 80, mozjpeg: true }).toBuffer(),
      ),
    );
    const variants = await seconds(() =>
      each(taken, 4, (one) => fetch(`${address}${one.path}/600`).then((answer) => answer.arrayBuffer())),
    );
    const kept = await seconds(() =>
      each(taken, 4, (one) => fetch(`${address}${one.path}/600`).then((answer) => answer.arrayBuffer())),
    );
    const lighter = await seconds(() =>
      each(taken.slice(0, 20), 2, (one) =>
        fetch(`${address}/pictures/${one.id}/detail`, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body: JSON.stringify({ intent: "over", steps: [{ ...newStep("lighter", "l"), quality: 60 }] }),
        }),
      ),
    );
    return [
      [
        "50 photographs of 12 megapixels taken in",
        `${upload.toFixed(1)} s, ${(upload / alone).toFixed(2)} × the image library alone`,
        "—",
      ],
      [
        "meanwhile: the slowest answer to others, the most memory",
        `${Math.round(slowest * 1000)} ms, ${Math.round(most / 1_000_000)} MB`,
        "100 ms, 1,000 MB",
      ],
      [
        "variants of 600 px made; fetched again",
        `${(50 / variants).toFixed(1)}/s; ${Math.round(50 / kept)}/s`,
        "—",
      ],
      ["20 made lighter and saved over", `${lighter.toFixed(1)} s`, "—"],
    ];
  } finally {
    await program.stop();
  }
}
