/** A hundred thousand lines brought into the running program, and how long others wait for an answer meanwhile. */
import { type Program, startProgram } from "~/e2e/program";
import type { Line } from "./line";

const LINES = 100_000;

/** Asks again and again; the longest time an answer took, in milliseconds. */
function watch(address: string): { stop(): Promise<number> } {
  let longest = 0;
  let going = true;
  const ask = async () => {
    while (going) {
      const begun = performance.now();
      // When the program has ended, there is nobody to wait for.
      await fetch(address)
        .then((answer) => answer.arrayBuffer())
        .catch(() => {
          going = false;
        });
      longest = Math.max(longest, performance.now() - begun);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  };
  const asking = ask();
  return {
    async stop() {
      going = false;
      await asking;
      return Math.round(longest);
    },
  };
}

/** Brings many new contacts into a running program, and takes them back: how long each part takes, in seconds. */
export async function importTimes({ address }: Pick<Program, "address">) {
  const text = Array.from(
    { length: LINES },
    (_, n) => `Zoë;Lindqvist;zoe.${n}@new.example;0${1 + (n % 9)}.04.2021;Marl Bay;${n % 40}`,
  );
  const body = ["First name;Last name;E-Mail;Joined;Branch;Orders", ...text].join("\n");
  const post = async (path: string, it: string, type = "application/json") =>
    fetch(`${address}${path}`, {
      method: "POST",
      headers: { "content-type": type, origin: address },
      body: it,
    });
  const timed = async <T>(work: () => Promise<T>): Promise<[T, number]> => {
    const begun = performance.now();
    return [await work(), (performance.now() - begun) / 1000];
  };
  const [id, looked] = await timed(async () => {
    const taken = await post("/audience/import/take?name=many.csv", body, "application/octet-stream");
    return ((await taken.json()) as { result: { id: string } }).result.id;
  });
  const field = (key: string) => ({ target: { to: "field", field: key }, dates: "dmy", decimal: "." });
  const plan = {
    columns: ["first_name", "last_name", "email", "joined", "branch", "orders"].map(field),
    known: "fill",
    lists: [],
    newList: "Newcomers",
    consent: { source: "On paper", date: "" },
    lenient: false,
  };
  const [, checked] = await timed(async () =>
    (await post(`/audience/import/${id}/check`, JSON.stringify(plan))).text(),
  );
  const [, brought] = await timed(async () => {
    await (await post(`/audience/import/${id}.data`, JSON.stringify({ intent: "run", plan }))).text();
    for (;;) {
      const change = (await (await fetch(`${address}/audience/changes/${id}`)).json()) as { state: string };
      if (change.state === "done") break;
      if (change.state !== "running") throw new Error(`the import is ${change.state}`);
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
  });
  const takeBack = () => timed(async () => (await post(`/audience/changes/${id}`, "{}")).text());
  return { looked, checked, brought, takeBack };
}

export const inSeconds = (time: number) => `${time.toFixed(1)} s`;

export async function importLines(): Promise<Line[]> {
  const program = await startProgram({ contacts: 1000 });
  try {
    // The first answers of a program that has just begun take longer, with or without an import.
    await fetch(`${program.address}/healthz`);
    await (await fetch(`${program.address}/settings`)).text();
    const web = watch(`${program.address}/healthz`);
    const asked = watch(`${program.address}/settings`);
    const { looked, checked, brought, takeBack } = await importTimes(program);
    const stalls = [await web.stop(), await asked.stop()];
    const [, back] = await takeBack();
    return [
      [
        "100,000 lines: looked through, what will happen, brought in",
        [looked, checked, brought].map(inSeconds).join(", "),
        "30 s",
      ],
      ["taken back", inSeconds(back), "no longer than it took"],
      [
        "meanwhile the longest wait for the web, for an answer of the database",
        `${stalls[0]} ms, ${stalls[1]} ms`,
        "100 ms",
      ],
    ];
  } finally {
    await program.stop();
  }
}
