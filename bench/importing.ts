/** A hundred thousand lines brought into the running program, and how long others wait for an answer meanwhile. */
import { startProgram } from "~/e2e/program";

type Line = [what: string, result: string, goal: string];

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

export async function importLines(): Promise<Line[]> {
  const program = await startProgram({ contacts: 1000 });
  try {
    const text = Array.from(
      { length: LINES },
      (_, n) => `Zoë;Lindqvist;zoe.${n}@new.example;0${1 + (n % 9)}.04.2021;Marl Bay;${n % 40}`,
    );
    const body = ["First name;Last name;E-Mail;Joined;Branch;Orders", ...text].join("\n");
    const json = { "content-type": "application/json", origin: program.address };
    const post = async (path: string, it: string, type = json) =>
      fetch(`${program.address}${path}`, { method: "POST", headers: type, body: it });
    // The first answers of a program that has just begun take longer, with or without an import.
    await fetch(`${program.address}/healthz`);
    await (await fetch(`${program.address}/settings`)).text();
    const web = watch(`${program.address}/healthz`);
    const asked = watch(`${program.address}/settings`);
    const begun = performance.now();
    const taken = await post("/audience/import/take?name=many.csv", body, {
      ...json,
      "content-type": "application/octet-stream",
    });
    const { id } = ((await taken.json()) as { result: { id: string } }).result;
    const looked = performance.now();
    const field = (key: string) => ({ target: { to: "field", field: key }, dates: "dmy", decimal: "." });
    const plan = {
      columns: ["first_name", "last_name", "email", "joined", "branch", "orders"].map(field),
      known: "fill",
      lists: [],
      newList: "Newcomers",
      consent: { source: "On paper", date: "" },
      lenient: false,
    };
    const check = await post(`/audience/import/${id}/check`, JSON.stringify(plan));
    await check.text();
    const checked = performance.now();
    const form = await post(`/audience/import/${id}.data`, JSON.stringify({ intent: "run", plan }));
    await form.text();
    for (;;) {
      const change = (await (await fetch(`${program.address}/audience/changes/${id}`)).json()) as {
        state: string;
      };
      if (change.state !== "running") break;
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
    const ended = performance.now();
    const stalls = [await web.stop(), await asked.stop()];
    const seconds = (from: number, to: number) => `${((to - from) / 1000).toFixed(1)} s`;
    return [
      [
        "100,000 lines: looked through, what will happen, brought in",
        `${seconds(begun, looked)}, ${seconds(looked, checked)}, ${seconds(checked, ended)}`,
        "30 s",
      ],
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
