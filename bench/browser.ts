/**
 * The composer's speed in the browser, on the email of 100 blocks in `fixtures/`: a keystroke to painted canvas and
 * a drag across it, against the same in an email of a few blocks; and the script that the pages load.
 */
import type { Driver } from "selenium-webdriver/chrome.js";
import { parseEmail } from "~/core/blocks";
import { blocksOf, type Email } from "~/core/email";
import { difference, pack } from "~/core/steps";
import { openBrowser, type Page } from "~/e2e/browser";
import { type Program, startProgram } from "~/e2e/program";
import { grown, hundredBlocks } from "./designs";
import type { Line } from "./line";

/** Milliseconds of script, and of all of the page's main thread, since it was opened. */
async function busy(page: Page): Promise<{ script: number; all: number }> {
  const { metrics } = (await (page.driver as unknown as Driver).sendAndGetDevToolsCommand(
    "Performance.getMetrics",
    {},
  )) as unknown as { metrics: { name: string; value: number }[] };
  const value = (name: string) => (metrics.find((metric) => metric.name === name)?.value ?? 0) * 1000;
  return { script: value("ScriptDuration"), all: value("TaskDuration") };
}

const share = (values: readonly number[], part: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * part))];

/** Types into a text of the campaign and drags a block across it. */
async function compose(page: Page, id: string, words: string) {
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  await (page.driver as unknown as Driver).sendDevToolsCommand("Performance.enable", {});
  await page.clickAt(await page.onCanvas(words));
  await page.clickAt(await page.onCanvas(words));
  await page.until(
    () =>
      page.run<boolean>(
        "return !!document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[role=textbox]')",
      ),
    "the words are not being edited",
  );
  // From the key to the frame after it: what is in between has been drawn.
  await page.run(`window.painted = [];
    addEventListener("keydown", () => {
      const start = performance.now();
      requestAnimationFrame(() => { const port = new MessageChannel();
        port.port1.onmessage = () => window.painted.push(performance.now() - start);
        port.port2.postMessage(0); });
    }, true);`);
  const keys = 80;
  for (const sign of "warm up ") await page.keys(sign);
  await page.run("window.painted.length = 0");
  const before = await busy(page);
  for (let at = 0; at < keys; at++) await page.keys("sow peas now "[at % 13]);
  await page.until(
    async () => (await page.run<number>("return window.painted.length")) >= keys,
    "not every key was painted",
  );
  const after = await busy(page);
  const painted = await page.run<number[]>("return window.painted");
  await page.keys("\uE00C", "\uE00C");

  await page.run(`window.frames = []; let last = performance.now();
    const tick = (now) => { window.frames.push(now - last); last = now; window.ticking = requestAnimationFrame(tick); };
    requestAnimationFrame(tick);`);
  const from = await page.onCanvas(words);
  const { width, height } = await page.driver.manage().window().getRect();
  const start = await busy(page);
  let moves = 0;
  await page.drag(from, { x: width / 2, y: 200 }, async () => {
    await page.run("window.frames.length = 0");
    for (let round = 0; round < 10; round++) {
      for (let step = 0; step < 12; step++) {
        await page.driver
          .actions({ async: true })
          .move({
            x: Math.round(width / 2 - 100 + step * 12),
            y: Math.round(160 + ((height - 360) * ((step + round) % 12)) / 12),
            duration: 16,
          })
          .perform();
        moves++;
      }
    }
    await page.run("cancelAnimationFrame(window.ticking)");
  });
  const end = await busy(page);
  const frames = await page.run<number[]>("return window.frames.slice(1)");
  return {
    script: (after.script - before.script) / keys,
    painted50: share(painted, 0.5),
    painted95: share(painted, 0.95),
    dragScript: (end.script - start.script) / moves,
    frame: Math.max(...frames),
    frame99: share(frames, 0.99),
    late: frames.filter((gap) => gap > 32).length,
    frames: frames.length,
  };
}

/** Kilobytes of script, as they came over the wire, that a page needed: until its email was drawn, and in all. */
async function scripts(page: Page, path: string): Promise<{ first: number; all: number }> {
  await page.open(path);
  await page.until(
    () => page.run<boolean>("return document.readyState === 'complete'"),
    "the page did not load",
  );
  await page.run("return document.fonts.ready.then(() => true)");
  if (path.endsWith("/compose")) await page.named("Subject");
  const [first, all] = await page.run<[number, number]>(
    // Of the composer until the email is drawn; of other pages until they are loaded: what they fetch ahead comes later.
    `const drawn = performance.getEntriesByName("drawn")[0]?.startTime
       ?? performance.getEntriesByType("navigation")[0].loadEventEnd;
     const size = (list) => list.reduce((sum, e) => sum + e.encodedBodySize, 0) / 1024;
     const all = performance.getEntriesByType("resource").filter((e) => e.name.endsWith(".js"));
     return [size(all.filter((e) => e.startTime < drawn)), size(all)];`,
  );
  return { first, all };
}

/** Types as fast as a key repeats, ten milliseconds a sign: what arrives, and the longest wait for a frame. */
async function burst(page: Page, id: string, words: string): Promise<{ lost: number; longest: number }> {
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  await page.clickAt(await page.onCanvas(words));
  await page.clickAt(await page.onCanvas(words));
  const textbox = "document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[role=textbox]')";
  await page.until(() => page.run<boolean>(`return !!${textbox}`), "the words are not being edited");
  const signs = "abcdefghij".repeat(20);
  const length = `${textbox}.textContent.length`;
  const before = await page.run<number>(`return ${length}`);
  await page.run(`window.waits = []; let last = performance.now();
    const tick = (now) => { window.waits.push(now - last); last = now; window.ticking = requestAnimationFrame(tick); };
    requestAnimationFrame(tick);`);
  const driver = page.driver as unknown as Driver;
  const sent: Promise<unknown>[] = [];
  for (const text of signs) {
    sent.push(driver.sendDevToolsCommand("Input.dispatchKeyEvent", { type: "keyDown", text, key: text }));
    sent.push(driver.sendDevToolsCommand("Input.dispatchKeyEvent", { type: "keyUp", key: text }));
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  await Promise.all(sent);
  const waits = await page.run<number[]>("cancelAnimationFrame(window.ticking); return window.waits");
  const after = await page.run<number>(`return ${length}`);
  return { lost: signs.length - (after - before), longest: Math.max(...waits) };
}

/** Milliseconds from a click on a link until what it leads to stands on the screen. */
const clicked = (page: Page, link: string, there: string) =>
  page.run<number>(
    `const start = performance.now();
     document.querySelector(arguments[0]).click();
     const there = new Function("return " + arguments[1]);
     return new Promise((done) => {
       const look = () => there()
         ? requestAnimationFrame(() => setTimeout(() => done(performance.now() - start)))
         : setTimeout(look, 2);
       look();
     });`,
    link,
    there,
  );

/** Milliseconds from pointing at each theme until the email is painted in it, one right after the other. */
async function themed(page: Page, id: string): Promise<number[]> {
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Point at one");
  return page.run<number[]>(
    `const painted = (work) => new Promise((done) => {
       const start = performance.now();
       work();
       requestAnimationFrame(() => { const port = new MessageChannel();
         port.port1.onmessage = () => done(performance.now() - start);
         port.port2.postMessage(0); });
     });
     const point = (theme) => painted(() => theme.dispatchEvent(new PointerEvent("pointermove", { bubbles: true })));
     return (async () => {
       const themes = [...document.querySelectorAll("[role=radiogroup][aria-label=Theme] [role=radio]")];
       // Once for the fonts to come.
       for (const theme of themes) await point(theme);
       await document.fonts.ready;
       const times = [];
       for (const theme of themes) times.push(await point(theme));
       return times;
     })();`,
  );
}

/** So long somebody looks at the list before they press, in milliseconds. */
const LOOK = 2000;

/**
 * The first drawing of an email when its campaign is opened from the list, at once and after a look at the list, and the
 * steps between its pages.
 */
async function stepping(page: Page, id: string, blocks: number) {
  const drawn = `(document.querySelector("[data-testid=canvas]")?.shadowRoot?.querySelectorAll("[data-kind=block]").length ?? 0) >= ${blocks}`;
  const opened: number[] = [];
  for (const wait of [0, LOOK]) {
    await page.open("/campaigns");
    await page.find(`a[href*="/campaigns/${id}"]`);
    await new Promise((resolve) => setTimeout(resolve, wait));
    opened.push(await clicked(page, `a[href^="/campaigns/${id}/compose"]`, drawn));
  }
  const steps: [string, number][] = [];
  for (const step of ["readers", "proof", "send", "compose"]) {
    const there = step === "compose" ? drawn : `location.pathname.endsWith("/${step}")`;
    steps.push([step, await clicked(page, `a[href*="/campaigns/${id}/${step}"]`, there)]);
  }
  return { opened, steps };
}

async function campaignOf(program: Program, email: Email): Promise<string> {
  const start = await fetch(`${program.address}/campaigns.data`, {
    method: "POST",
    headers: { origin: program.address },
    body: new URLSearchParams({ intent: "start", name: "Bench", layout: "letter" }),
  });
  const id = /campaigns\/([0-9a-f]+)\/compose/.exec(await start.text())?.[1];
  if (!id) throw new Error("no campaign was started");
  const address = `${program.address}/campaigns/${id}/save`;
  const whole = (await (await fetch(address)).json()) as { email: unknown; revision: number };
  const saved = await fetch(address, {
    method: "POST",
    headers: { "content-type": "application/json", origin: program.address },
    body: JSON.stringify({
      revision: whole.revision,
      save: `bench-${id}`,
      steps: pack(difference(parseEmail(whole.email), email)),
    }),
  });
  if (!saved.ok) throw new Error(`the fixture was not taken: ${saved.status}`);
  return id;
}

export async function browserLines(): Promise<Line[]> {
  const email = await hundredBlocks();
  const few = { ...email, sections: [email.sections[0], ...email.sections.slice(-1)] };
  const program = await startProgram({ contacts: 1000 });
  const page = await openBrowser(program.address);
  try {
    const small = await compose(page, await campaignOf(program, few), "Every kind of block");
    const large = await compose(page, await campaignOf(program, email), "Every kind of block");
    const theming = await themed(page, await campaignOf(program, email));
    const long = grown(email, 150);
    const longId = await campaignOf(program, long);
    const blocks = blocksOf(long).length;
    const { lost, longest } = await burst(page, longId, "Every kind of block");
    const { opened, steps } = await stepping(page, longId, blocks);
    const ms = (value: number) => `${value.toFixed(1)} ms`;
    const times = (a: number, b: number) => `${(a / b).toFixed(1)} ×`;
    const plain = await scripts(page, "/campaigns");
    const composer = await scripts(page, `/campaigns/${await campaignOf(program, few)}/compose`);
    return [
      [
        "keystroke in a 100-block email, script",
        `${ms(large.script)}, ${times(large.script, small.script)} that in ${few.sections.length} sections`,
        "under 16 ms",
      ],
      [
        "keystroke in a 100-block email, to painted canvas",
        `${ms(large.painted50)}, 95 % within ${ms(large.painted95)}, ${times(large.painted50, small.painted50)}`,
        "50 ms at 95 %",
      ],
      [
        "drag over a 100-block email, script per move",
        `${ms(large.dragScript)}, ${times(large.dragScript, small.dragScript)}`,
        "",
      ],
      [
        "drag over a 100-block email, longest frame",
        `${ms(large.frame)}, ${large.late} of ${large.frames} over 32 ms, 99 % within ${ms(large.frame99)}`,
        "none over 32 ms",
      ],
      [
        "a theme pointed at, in a 100-block email, to painted canvas",
        `${ms(share(theming, 0.5))}, longest ${ms(Math.max(...theming))}`,
        "under 100 ms",
      ],
      [
        `typing at 10 ms a sign in ${blocks} blocks`,
        `${lost} of 200 signs lost, longest wait for a frame ${ms(longest)}`,
        "none lost, under 100 ms",
      ],
      [
        `opening an email of ${blocks} blocks from the list`,
        `${ms(opened[1])}, at once ${ms(opened[0])}`,
        "under 1 s",
      ],
      [
        "steps between the pages of a campaign",
        steps.map(([step, value]) => `${step} ${ms(value)}`).join(", "),
        "under 300 ms",
      ],
      ["script of a page outside the composer", `${Math.round(plain.first)} KB compressed`, "under 200 KB"],
      [
        "script of the composer until the email is drawn",
        `${Math.round(composer.first)} KB compressed, ${Math.round(composer.all)} KB with the editors that follow`,
        "under 400 KB, 480 in all",
      ],
    ];
  } finally {
    await page.driver.quit();
    await program.stop();
  }
}
