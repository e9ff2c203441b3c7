/** Pictures in the running program: taken in, filed, found, changed by steps, made lighter. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import sharp from "sharp";
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { type Block, blocksOf } from "~/core/email";
import { scene } from "~/server/pictures/fixtures";
import type { PictureDetail } from "~/server/pictures/library";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, designOf, eventually, startFrom } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

interface ImageParts {
  src: string;
  natural: { width: number; height: number };
}

let program: Program;
let page: Page;
/** A web server with a picture on it, which counts as one of the workspace's own. */
let web: http.Server;
let elsewhere: string;
beforeAll(async () => {
  web = http.createServer(async (request, response) => {
    if (request.url !== "/beds/Raised%20bed.jpg") response.writeHead(404).end();
    else
      response.writeHead(200, { "content-type": "image/jpeg" }).end(await scene(320, 210).jpeg().toBuffer());
  });
  await new Promise<void>((resolve) => web.listen(0, "127.0.0.1", () => resolve()));
  elsewhere = `http://127.0.0.1:${(web.address() as AddressInfo).port}`;
  program = await startProgram({ contacts: FEW, env: { SEPTIMA_STANDINS: `web=${elsewhere}` } });
});
afterAll(async () => {
  await program?.stop();
  web.close();
});
beforeEach(async () => {
  page = await openBrowser(program.address);
});
afterEach(async ({ task }) => {
  await keepFailure(page, task);
  await page.driver.quit();
});

/** Gives files to the page as the browser hands them over. */
function hand(how: "drop" | "paste", files: Record<string, Buffer>, at = { x: 500, y: 500 }) {
  return page.run(
    `const [how, files, at] = arguments;
     const data = new DataTransfer();
     for (const [name, octets] of files)
       data.items.add(new File([Uint8Array.from(atob(octets), (sign) => sign.charCodeAt(0))], name, { type: /\\.(heic|pdf)$/.test(name) ? '' : 'image/' + name.split('.').pop().replace('jpg', 'jpeg') }));
     if (how === 'paste') document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
     else {
       let target = document.elementFromPoint(at.x, at.y);
       while (target?.shadowRoot) target = target.shadowRoot.elementFromPoint(at.x, at.y) ?? target;
       target.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, composed: true, cancelable: true, clientX: at.x, clientY: at.y }));
     }`,
    how,
    Object.entries(files).map(([name, data]) => [name, data.toString("base64")]),
    at,
  );
}

const ask = async <T>(path: string) => (await (await fetch(program.address + path)).json()) as T;
const named = async (words: string) =>
  (
    await ask<{ pictures: (PictureDetail & { uses: unknown[] })[] }>(
      `/library/list?words=${encodeURIComponent(words)}`,
    )
  ).pictures[0];
const names = async () => {
  const labels = await page.run<string[]>(
    "return [...document.querySelectorAll('main [role=option]')].map(e => e.dataset.name ?? '')",
  );
  return labels.filter((label) => label !== "");
};
const choose = async (name: string) => {
  const tile = await page.find(`main [role=option][data-name="${name}"]`);
  await tile.click();
  await page.find(`aside[aria-label="The picture"] a[download="${name}"]`);
};
/** Draws from one place to another in an element, both in shares of it. */
async function draw(css: string, places: [number, number][]): Promise<void> {
  const element = await page.find(css);
  const { width, height } = await element.getRect();
  const at = ([x, y]: [number, number]) => ({
    origin: element,
    x: Math.round((x - 0.5) * (width - 2)),
    y: Math.round((y - 0.5) * (height - 2)),
    duration: 30,
  });
  const [first, ...rest] = places;
  let actions = page.driver.actions({ async: true }).move(at(first)).press();
  for (const place of rest) actions = actions.move(at(place));
  await actions.release().perform();
}

test("pictures come in by drop, paste and address; what is none is named; each is found by what is said of it", async () => {
  await page.open("/pictures");
  await page.find("main [role=option] img");
  const rows = await scene(1600, 900).jpeg().toBuffer();
  await hand("drop", {
    "leek-rows.jpg": rows,
    "the-same.jpg": rows,
    "bean poles.png": await scene(500, 500).png().toBuffer(),
    "phone.heic": Buffer.from("\0\0\0\x18ftypheic\0\0\0\0mif1heic", "latin1"),
    "broken.png": (await scene(400, 300).png().toBuffer()).subarray(0, 900),
  });
  const coming = "section[aria-label='Pictures coming in']";
  await page.sees("3 pictures taken in, 1 of them here already", coming);
  expect(await page.words(coming)).toMatch(/“phone.heic” is a HEIC picture.*Save it as JPEG/);
  expect(await page.words(coming)).toContain("“broken.png” is damaged");
  await page.press("Close");
  await page.until(async () => (await names()).includes("bean poles.png"), "what came in is not shown");
  await hand("paste", { "pasted.png": await scene(64, 48).png().toBuffer() });
  await page.until(async () => (await names())[0] === "pasted.png", "what was pasted is not shown");
  await page.press("From an address");
  await page.fill("Address of a picture", `${elsewhere}/beds/Raised%20bed.jpg`);
  await page.press("Take it");
  await page.until(async () => (await names())[0] === "Raised bed.jpg", "it was not taken from its address");
  // Addresses within are reached by nobody, whoever asks.
  await page.press("From an address");
  await page.fill("Address of a picture", `http://127.0.0.1:1/secret.png`);
  await page.press("Take it");
  await page.sees("inside a private network", coming);
  await page.press("Close");

  await choose("leek-rows.jpg");
  await page.press("Take “Leek rows”");
  await page.until(async () => (await named("leek-rows")).alt === "Leek rows", "the text was not kept");
  await page.fill("Labels", "winter, beds");
  await (await page.named("Labels")).sendKeys(Key.ENTER);
  await page.sees("winter", "main");
  await page.choose("Folder", "New folder…");
  const folder = await page.find("aside input[placeholder='Name of the new folder']");
  await folder.sendKeys("Season 2027", Key.ENTER);
  await page.sees("Season 2027", "main");
  await page.fill("Search pictures", "winter");
  await page.until(async () => (await names()).join() === "leek-rows.jpg", "the label does not find it");
  await page.fill("Search pictures", "nothing like it");
  await page.sees("No picture fits");
  await (await page.named("Search pictures")).sendKeys(Key.chord(Key.CONTROL, "a"), Key.DELETE);
  await page.press("Season 2027 1");
  await page.until(async () => (await names()).join() === "leek-rows.jpg", "the folder does not hold it");
  await page.press("Unused");
  await page.until(async () => (await names()).includes("bean poles.png"), "it is not unused");
  expect(await names()).not.toContain("Spring rows");
});

test("by keys pictures are walked, several are filed at once, removed and brought back; where one is used is said first", async () => {
  await page.open("/pictures?order=name");
  const first = await page.find("main [role=option]:has(img)");
  await first.click();
  const before = (await ask<{ total: number }>("/library/list")).total;
  const active = () => page.run<string>("return document.activeElement.dataset.name");
  const [one, two, three] = await names();
  await page.driver.actions().sendKeys(Key.ARROW_RIGHT).perform();
  await page.until(async () => (await active()) === two, "the arrow did not go on");
  await page.driver
    .actions()
    .sendKeys(Key.ARROW_RIGHT)
    .keyDown(Key.CONTROL)
    .sendKeys(Key.SPACE)
    .keyUp(Key.CONTROL)
    .perform();
  await page.sees("2 pictures chosen");
  await (await page.named("One more label")).sendKeys("by keys", Key.ENTER);
  await page.sees("Labelled “by keys”");
  const labelled = await ask<{ pictures: { name: string }[] }>("/library/list?label=by%20keys");
  expect(labelled.pictures.map(({ name }) => name).sort()).toEqual([one, three].sort());
  await page.press("Archive 2 pictures");
  await page.sees("2 pictures put in the archive");
  expect((await ask<{ total: number }>("/library/list")).total).toBe(before - 2);
  await page.press("Undo");
  await page.sees("2 pictures back among the others");
  expect((await ask<{ total: number }>("/library/list")).total).toBe(before);
  await (await page.find("main [role=option]:has(img)")).click();
  await page.press("Archive");
  await page.sees("1 picture put in the archive");
  await (await page.find("main button[aria-pressed]:has(.lucide-archive)")).click();
  await page.until(async () => (await names()).join() === one, "not in the archive alone");
  await (await page.find("main [role=option]:has(img)")).click();
  await page.press("Bring back from the archive");
  await page.sees("1 picture back among the others");
  expect((await ask<{ total: number }>("/library/list")).total).toBe(before);
  await page.open("/pictures?label=by%20keys&order=name");
  await (await page.find("main [role=option]:has(img)")).click();
  await page.driver.actions().sendKeys(Key.ARROW_RIGHT).perform();
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys(Key.SPACE).keyUp(Key.CONTROL).perform();
  await page.press("Remove 2 pictures");
  await page.sees("2 pictures removed");
  expect((await ask<{ total: number }>("/library/list")).total).toBe(before - 2);
  await page.press("Undo");
  await page.sees("2 pictures back");
  expect((await ask<{ total: number }>("/library/list")).total).toBe(before);

  // Found from anywhere.
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("k").keyUp(Key.CONTROL).perform();
  await page.find("[cmdk-input]:focus");
  await page.driver.actions().sendKeys("spring rows").perform();
  const found = By.xpath(
    "//*[@cmdk-group][contains(., 'Pictures')]//*[@cmdk-item][contains(., 'Spring rows')]",
  );
  await page.until(async () => {
    await (await page.driver.findElement(found)).click();
    return true;
  }, "the picture is not found");
  await page.find("aside[aria-label='The picture'] a[download='Spring rows']");
  await page.sees("What to sow now", "aside");
  await page.press("Remove “Spring rows”");
  await page.sees("“What to sow now”", "[data-testid=uses]");
  await page.press("Remove it");
  await page.sees("“Spring rows” was removed");
  await page.press("Undo");
  await page.sees("“Spring rows” is back");
});

test("a picture is cropped, lit, written and drawn on; what is shown is what is saved; it goes over every use, and back", async () => {
  const campaign = await campaignNamed(program, "What to sow now");
  const picture = await named("Spring rows");
  const shownIn = async () =>
    blocksOf(await designOf(program, campaign)).some((block) =>
      JSON.stringify(block).includes(`"${picture.path}"`),
    );
  expect(await shownIn()).toBe(true);
  await page.open(`/library/${picture.id}/edit`);
  await page.find("[data-testid=stage] image");
  await page.press("Crop");
  await draw("[data-drag='Edge e']", [
    [0.5, 0.5],
    [-8, 0.5],
  ]);
  const cropped = Number(await (await page.named("Width")).getAttribute("value"));
  expect(cropped).toBeLessThan(1200);
  await page.press("Light");
  const warmth = await page.named("Warmth", "[role=spinbutton]");
  await warmth.sendKeys(Key.chord(Key.CONTROL, "a"), "40", Key.TAB);
  await page.press("Words");
  const words = await page.find("aside textarea");
  await words.sendKeys(Key.chord(Key.CONTROL, "a"), "Frost by Thursday");
  await page.find("[data-testid=stage] path");
  await draw("[data-drag='The words']", [
    [0.5, 0.5],
    [0.5, -0.6],
  ]);
  await page.press("Pen");
  await draw("[data-drag='Draw here']", [
    [0.1, 0.8],
    [0.3, 0.9],
    [0.5, 0.8],
    [0.7, 0.9],
  ]);
  await page.sees("1 stroke");
  await draw("[data-drag='Draw here']", [
    [0.2, 0.2],
    [0.25, 0.3],
  ]);
  await page.sees("2 strokes");
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("z").keyUp(Key.CONTROL).perform();
  await page.sees("1 stroke");
  await page.sees("4 steps, all can be taken back");
  // Closing loses nothing.
  await page.press("Close");
  await page.open(`/library/${picture.id}/edit`);
  await page.sees("The steps you had not saved are here again");
  await page.sees("“Frost by Thursday”");
  await page.until(
    async () =>
      (await page.run<number>("return document.querySelectorAll('[data-testid=stage] path').length")) >= 2,
    "the words are not drawn",
  );

  // The browser's drawing and the server's picture, at one size, pixel by pixel.
  const width = 400;
  const drawn = await page.driver.executeAsyncScript<string>(
    `const [width, done] = arguments;
     const svg = document.querySelector('[data-testid=stage] svg').cloneNode(true);
     svg.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
     const [, , w, h] = svg.getAttribute('viewBox').split(' ').map(Number);
     svg.setAttribute('width', width); svg.setAttribute('height', Math.round(width * h / w));
     const image = new Image();
     image.onload = () => {
       const canvas = document.createElement('canvas');
       canvas.width = width; canvas.height = Math.round(width * h / w);
       canvas.getContext('2d').drawImage(image, 0, 0, canvas.width, canvas.height);
       done(canvas.toDataURL('image/png'));
     };
     image.src = 'data:image/svg+xml;charset=utf-8,' + encodeURIComponent(new XMLSerializer().serializeToString(svg));`,
    width,
  );
  const kept = await page.run<{ steps: unknown[] }>(
    `return JSON.parse(localStorage.getItem('septima picture ${picture.id}'))`,
  );
  expect(kept.steps).toHaveLength(4);
  const trial = (await (
    await fetch(`${program.address}/library/${picture.id}/detail`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ intent: "trial", steps: kept.steps, width }),
    })
  ).json()) as { result: { data: string } };
  const pixels = async (data: string) =>
    sharp(Buffer.from(data.replace(/^data:[^,]*,/, ""), "base64"))
      .removeAlpha()
      .resize(width, 200, { fit: "fill" })
      .raw()
      .toBuffer();
  const [here, there] = [await pixels(drawn), await pixels(trial.result.data)];
  const off = here.reduce((sum, value, at) => sum + Math.abs(value - there[at]), 0) / here.length;
  expect(off).toBeLessThan(4);
  // The same without one of the steps is further off: the comparison can tell.
  const less = (await (
    await fetch(`${program.address}/library/${picture.id}/detail`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ intent: "trial", steps: kept.steps.slice(0, 1), width }),
    })
  ).json()) as { result: { data: string } };
  const bare = await pixels(less.result.data);
  expect(here.reduce((sum, value, at) => sum + Math.abs(value - bare[at]), 0) / here.length).toBeGreaterThan(
    off + 2,
  );

  await page.press("look at both");
  await page.sees("Before and after");
  await page.press("Close");
  await page.press("Save over it");
  // What it changes is named before it is.
  await page.sees("It changes 2 drafts");
  await page.press("Save and change them");
  await page.sees("so from now on");
  expect(await shownIn()).toBe(false);
  const saved = await named("Spring rows");
  expect(saved.width / saved.height).toBeLessThan(picture.width / picture.height);
  const { versions } = await ask<PictureDetail>(`/library/${picture.id}/detail`);
  expect(versions).toHaveLength(2);
  // Its page keeps how it was, and goes back to it.
  await page.open("/pictures");
  await choose("Spring rows");
  await page.press("Return to it");
  await page.sees("It is as it was then");
  const back = await eventually("it is as wide as before", async () => {
    const one = await named("Spring rows");
    return one.width === picture.width && one;
  });
  expect(JSON.stringify(await designOf(program, campaign))).toContain(`"${back.path}"`);
});

test("a picture dropped on the email is asked what it shows; it is edited there and made lighter, with both in view", async () => {
  const id = await startFrom(page, program, "Card", "Bean letter");
  const at = await page.run<{ x: number; y: number }>(
    "const r = document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[data-kind=block]').getBoundingClientRect(); return { x: r.x + r.width / 2, y: r.y + 5 }",
  );
  const noise = sharp({
    create: {
      width: 1400,
      height: 1400,
      channels: 3,
      background: "#777",
      noise: { type: "gaussian", mean: 120, sigma: 80 },
    },
  });
  await hand("drop", { "runner-beans-on-poles.jpg": await noise.jpeg({ quality: 92 }).toBuffer() }, at);
  await page.sees("What does it show?");
  await page.press("“Runner beans on poles”");
  const image = (where: (src: unknown) => boolean) =>
    eventually("the picture in the design", async () => {
      const block = blocksOf(await designOf(program, id)).find(
        (one) => one.type === "image" && one.alt === "Runner beans on poles",
      );
      return (block && where(block.src) && (block as Block & ImageParts)) ?? null;
    });
  const first = await image(() => true);

  await page.press("Edit it");
  await page.find("[data-testid=stage] image");
  await page.press("Crop");
  await page.press("2 : 1");
  await page.press("Save over it");
  const cropped = await image((src) => src !== first.src);
  const { width, height } = cropped.natural;
  expect(width / height).toBeCloseTo(2, 1);
  await page.press("Undo changing a picture");
  await image((src) => src === first.src);
  await page.press("Redo changing a picture");
  await image((src) => src === cropped.src);
  await page.saved();

  const fetched = async () => {
    const html = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
    const address = /<img src="([^"]+)" alt="Runner beans on poles"/.exec(html)?.[1] ?? "";
    return { address, bytes: (await (await fetch(address)).arrayBuffer()).byteLength };
  };
  const heavy = await fetched();
  expect(heavy.address).toMatch(/\/pictures\/[\w-]+\.jpg\/\d+$/);
  await page.press("More");
  await page.press("Pictures and their weight");
  await page.sees(`${Math.round(heavy.bytes / 1024)} KB`, "[role=dialog] li");
  await page.press("Make 1 heavy picture lighter…");
  await page.sees("lighter", "[role=dialog] figcaption");
  expect(await page.run("return document.querySelectorAll('[role=dialog] figure img').length")).toBe(2);
  await page.press("Take the lighter one");
  await page.sees("1 picture lighter");
  await page.saved();
  const light = await fetched();
  expect(light.bytes).toBeLessThan(heavy.bytes * 0.8);
  expect(await page.driver.findElements(By.css("[role=dialog]"))).toHaveLength(0);
});

test("rotated, flipped, toned, cropped, made smaller and lighter, it is saved as a copy; the one before stays as it was", async () => {
  // Left half red, right half blue, so that which side is where can be told.
  const half = (background: string) =>
    sharp({ create: { width: 320, height: 400, channels: 3, background } })
      .png()
      .toBuffer();
  const data = await sharp({ create: { width: 640, height: 400, channels: 3, background: "#C81E1E" } })
    .composite([{ input: await half("#1E3CC8"), left: 320, top: 0 }])
    .png()
    .toBuffer();
  await page.open("/pictures");
  await hand("drop", { "halves.png": data });
  await page.find("main [role=option][data-name='halves.png']");
  const before = await named("halves.png");
  await page.open(`/library/${before.id}/edit`);
  await page.find("[data-testid=stage] image");
  const typed = async (field: string, value: string, css = "[role=spinbutton], input") => {
    const control = await page.named(field, css);
    await control.sendKeys(Key.chord(Key.CONTROL, "a"), value, Key.TAB);
  };
  const inPanel = async (words: string) =>
    (await page.driver.findElement(By.xpath(`//aside//button[normalize-space(.)='${words}']`))).click();
  await page.press("Rotate");
  // Nothing is done until a turn is chosen.
  expect(await page.words("main")).not.toContain("Rotate 90");
  await inPanel("Right");
  await inPanel("Right");
  await inPanel("Left");
  await page.press("Flip");
  await inPanel("Upside down");
  await page.press("Tone");
  await typed("Strength", "50");
  await page.press("Focus");
  await typed("Across, %", "80");
  await page.press("Crop");
  await inPanel("1 : 1");
  await page.press("Size");
  await typed("At most", "120");
  await page.press("Lighter");
  await typed("Quality, %", "60");
  await inPanel("JPEG");
  await page.sees("7 steps, all can be taken back");
  await page.press("Save as a copy");
  const copy = await eventually("a copy", async () => {
    const { pictures } = await ask<{ pictures: PictureDetail[] }>("/library/list");
    return pictures.find(({ id, name }) => id !== before.id && name.startsWith("halves")) ?? null;
  });
  const detail = await ask<PictureDetail>(`/library/${copy.id}/detail`);
  expect(detail.steps.map(({ kind }) => kind)).toEqual([
    "rotate",
    "flip",
    "tone",
    "focus",
    "crop",
    "resize",
    "lighter",
  ]);
  expect(detail.steps[0]).toMatchObject({ turns: 1, angle: 0 });
  // A square of the turned picture, 120 px wide, as a JPEG: blue above and red below once it stands upside down.
  const served = Buffer.from(await (await fetch(program.address + copy.path)).arrayBuffer());
  const { format, width, height } = await sharp(served).metadata();
  expect([format, width, height]).toEqual(["jpeg", 120, 120]);
  const { data: pixels } = await sharp(served).raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => [...pixels.subarray((y * 120 + x) * 3, (y * 120 + x) * 3 + 3)];
  const [top, bottom] = [at(60, 8), at(60, 111)];
  expect(top[2]).toBeGreaterThan(top[0]);
  expect(bottom[0]).toBeGreaterThan(bottom[2]);
  const after = await named("halves.png");
  expect(after.path).toBe(before.path);
});
