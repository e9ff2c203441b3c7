/**
 * How long the server keeps others waiting while it is given files and feeds that mean harm: `/healthz` is asked
 * again and again meanwhile, and its longest answer counts.
 */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { addSource } from "~/e2e/campaigns";
import { startProgram } from "~/e2e/program";
import { hostileFiles } from "~/server/intake/hostile";
import { HOSTILE_FEEDS } from "~/server/sources/hostile";
import type { Line } from "./line";

/** Milliseconds of the longest answer of `/healthz` while the work goes on. */
async function longestAnswer(address: string, work: Promise<unknown>): Promise<number> {
  let going = true;
  const ended = work.finally(() => {
    going = false;
  });
  let longest = 0;
  while (going) {
    const start = performance.now();
    await (await fetch(`${address}/healthz`)).text();
    longest = Math.max(longest, performance.now() - start);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  await ended;
  return longest;
}

/** @returns the longest answers, by what was read */
export async function doorLines(): Promise<Line[]> {
  let feed = "";
  const server = http.createServer((_request, response) => void response.end(feed));
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const program = await startProgram({ contacts: 200, env: { SEPTIMA_STANDINS: `hostile=${base}` } });
  const post = async (path: string, body: FormData | URLSearchParams) => {
    const response = await fetch(program.address + path, {
      method: "POST",
      headers: { origin: program.address },
      body,
    });
    return response.text();
  };
  const goal = "/healthz within 250 ms";
  const line = (what: string, ms: number, outcome: string): Line => [
    what,
    `${ms.toFixed(0)} ms; ${/(It takes|It makes|It could not|This is not|“[^”]*” is)[^."]*/.exec(outcome)?.[0] ?? "read"}`,
    goal,
  ];
  try {
    const lines: Line[] = [
      [
        "nothing brought in",
        `${(await longestAnswer(program.address, post("/intake", written("Beans")))).toFixed(0)} ms`,
        goal,
      ],
    ];
    for (const { name, about, data } of hostileFiles()) {
      const body = new FormData();
      body.append("file", new File([data as Uint8Array<ArrayBuffer>], name));
      const reading = post("/intake", body);
      lines.push(line(`bringing in ${about}`, await longestAnswer(program.address, reading), await reading));
    }
    for (const [about, make] of Object.entries(HOSTILE_FEEDS)) {
      feed = make();
      const reading = addSource(program, "standin://hostile/feed").then(
        () => "taken",
        (error: Error) => error.message,
      );
      lines.push(line(`a feed of ${about}`, await longestAnswer(program.address, reading), await reading));
    }
    return lines;
  } finally {
    await program.stop();
    server.close();
  }
}

function written(text: string): FormData {
  const body = new FormData();
  body.append("kind", "text");
  body.append("text", text);
  return body;
}
