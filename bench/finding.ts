/**
 * Starting points and finding again, on the running program: 2,000 campaigns listed and searched by a word of the body,
 * and the gallery of templates until its pictures stand. The reference is the list with a hundred campaigns.
 */
import { openBrowser } from "~/e2e/browser";
import { startProgram } from "~/e2e/program";
import type { Line } from "./line";

/** Milliseconds until an address has answered, the median of several times. */
async function answered(address: string): Promise<number> {
  const times: number[] = [];
  for (let round = 0; round < 7; round++) {
    const start = performance.now();
    await (await fetch(address)).text();
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[3];
}

export async function findingLines(): Promise<Line[]> {
  const program = await startProgram({ contacts: 1000 });
  const page = await openBrowser(program.address);
  const lines: Line[] = [];
  try {
    const { address } = program;
    const ids = ["plain-letter", "half", "monthly", "six", "welcome", "question", "card", "front-page"];
    const start = async (from: number, to: number) => {
      for (let at = from; at < to; at++)
        await fetch(`${address}/templates`, {
          method: "POST",
          redirect: "manual",
          headers: { "content-type": "application/x-www-form-urlencoded", origin: address },
          body: new URLSearchParams({ intent: "start", id: ids[at % ids.length], name: `Campaign ${at}` }),
        });
    };
    await start(0, 96);
    const few = await answered(`${address}/campaigns.data`);
    await start(96, 1996);
    const many = await answered(`${address}/campaigns.data`);
    const found = await answered(`${address}/campaigns.data?q=wheelbarrow+rain`);
    const body = await answered(`${address}/campaigns.data?q=garlic`);
    lines.push(
      ["2,000 campaigns listed", `${Math.round(many)} ms, ${(many / few).toFixed(1)} × a hundred`, "300 ms"],
      [
        "searched by a word of the body: some, none",
        `${Math.round(body)} ms, ${Math.round(found)} ms`,
        "100 ms",
      ],
    );
    await page.open("/campaigns");
    await page.find("article");
    const longest = await scrolled(page);
    lines.push(["scrolling through them, the longest frame", `${Math.round(longest)} ms`, "50 ms"]);
    // The first look draws the drawings, which are kept.
    await page.open("/templates");
    await painted(page, 1);
    await page.open("/templates");
    lines.push(["the gallery until its pictures in view stand", `${await painted(page, 1)} ms`, "1.5 s"]);
    await page.driver.manage().window().setRect({ width: 1280, height: 2900 });
    await page.open("/templates");
    lines.push(["24 of its pictures in view", `${await painted(page, 24)} ms`, "1.5 s"]);
    await page.driver.manage().window().setRect({ width: 1280, height: 800 });
    await page.open("/templates");
    await painted(page, 1);
    lines.push([
      "scrolling the gallery, the longest frame",
      `${Math.round(await scrolled(page, "main"))} ms`,
      "50 ms",
    ]);
  } finally {
    await page.driver.quit();
    await program.stop();
  }
  return lines;
}

/** Milliseconds from the start of the page until at least so many pictures, and all in view, are drawn and painted. */
function painted(page: Awaited<ReturnType<typeof openBrowser>>, least: number): Promise<number> {
  return page.run<number>(
    `return new Promise((done) => {
       const look = () => {
         const inView = [...document.querySelectorAll("main [inert]")].filter((picture) => {
           const { top, bottom } = picture.getBoundingClientRect();
           return bottom > 0 && top < innerHeight;
         });
         const images = performance.getEntriesByType("resource").filter(({ initiatorType }) => initiatorType === "img");
         inView.length >= arguments[0] && inView.every(({ dataset }) => dataset.drawn) && images.every(({ responseEnd }) => responseEnd > 0)
           ? requestAnimationFrame(() => setTimeout(() => done(Math.round(performance.now()))))
           : setTimeout(look, 5);
       };
       look();
     })`,
    least,
  );
}

/** Scrolls through to the end, a third of the window a frame; the longest time between two frames, in milliseconds. */
function scrolled(page: Awaited<ReturnType<typeof openBrowser>>, css?: string): Promise<number> {
  return page.run<number>(
    `const box = arguments[0] ? document.querySelector(arguments[0]) : document.scrollingElement;
     return new Promise((done) => {
       let last = performance.now(), longest = 0, steps = 0;
       const step = (now) => {
         if (steps > 1) longest = Math.max(longest, now - last);
         last = now;
         if (steps++ > 60) return done(longest);
         box.scrollTop += innerHeight / 3;
         requestAnimationFrame(step);
       };
       requestAnimationFrame(step);
     });`,
    css ?? null,
  );
}
