/** Takes the pictures of `docs/screenshots/` from fresh demo data: build, then `npm run screenshots`. */
import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import sharp from "sharp";
import { Key, openBrowser } from "~/e2e/browser";
import { campaignNamed } from "~/e2e/campaigns";
import { startProgram } from "~/e2e/program";

const program = await startProgram();
const page = await openBrowser(program.address);
try {
  await mkdir("docs/screenshots", { recursive: true });
  const shot = async (name: string) => {
    await page.until(
      () =>
        page.run<boolean>(
          `const inView = (element) => {
             const { top, bottom } = element.getBoundingClientRect();
             return bottom > 0 && top < innerHeight;
           };
           return document.fonts.status === "loaded" &&
             [...document.images].filter((image) => image.src !== "" && inView(image)).every((image) => image.complete && image.naturalWidth > 0) &&
             [...document.querySelectorAll("span[role=img][inert]")].filter(inView).every((one) => one.dataset.drawn)`,
        ),
      "pictures are missing",
    );
    await new Promise((resolve) => setTimeout(resolve, 700));
    await writeFile(
      `docs/screenshots/${name}.png`,
      Buffer.from(await page.driver.takeScreenshot(), "base64"),
    );
  };
  /** Somebody looks the letter over by a link of theirs, and says what they think. */
  const reviewed = async () => {
    await page.open(`${base}/review`);
    await page.fill("Who looks it over", "Hanna, Piet");
    await page.press("Ask for a review");
    await page.sees("Asked: Hanna, Piet");
    for (const [block, words] of [
      ["Heading", "A little louder, please."],
      ["Button", "Is this the page with the new dates?"],
    ]) {
      await page.choose("Or choose what to comment on", block);
      if ((await page.words("section[aria-label=Comments]")).includes("Your name"))
        await page.fill("Your name", "Petra");
      await page.fill("Your comment", words);
      await page.press("Comment");
      await page.sees(words);
    }
    await page.find("[data-pin]");
  };
  const base = `/campaigns/${await campaignNamed(program, "What to sow now")}`;
  for (const [name, path] of [
    ["campaigns", "/campaigns"],
    ["audience", "/audience"],
    ["lookups", "/lookups"],
    ["brand", "/brand"],
    ["templates", "/templates?template=front-page"],
    ["readers", `${base}/readers`],
    ["send", `${base}/send`],
  ]) {
    await page.open(path);
    // The sheet counts after it is there.
    if (name === "send") await page.sees(" editions");
    await shot(name);
  }
  await page.open(`/campaigns/${await campaignNamed(program, "Bare-root week")}/preflight`);
  await page.sees("Fine");
  await shot("preflight");
  await page.open(`${base}/preview`);
  await page.find("iframe[title='The email on a phone']");
  await shot("preview");
  await reviewed();
  await shot("review");

  await page.open(`${base}/compose`);
  await page.sees("Reading as");
  await page.clickAt(await page.onCanvas("mild zone"));
  await shot("composer");
  await page.press("More");
  await page.press("Languages");
  await page.press("Outdated 1");
  await page.sees("English changed:");
  await page.press("Everything 31");
  await page.sees("Envelope");
  await shot("languages");
  await page.press("Close");
  await page.press("Change");
  await shot("rule");
  await page.press("Done");
  await page.press("Ask");
  await page.press("A shorter opening");
  await page.until(async () => (await page.words("[aria-label=Answers]")).includes("Accept"), "no answer");
  await page.press("Subjects");
  await page.until(
    async () => (await page.words("[aria-label=Answers]")).includes("Your guide"),
    "no subjects",
  );
  await shot("assistant");

  const lines = Array.from({ length: 900 }, (_, n) =>
    n % 40 === 7
      ? `Karla;karla.${n}.post.example;;;`
      : `Zoë;zoe.${n}@post.example;AL4 2TR;0${1 + (n % 9)}.04.2021;Marl Bay`,
  );
  const file = path.join(program.data, "friends-of-the-nursery.csv");
  await writeFile(
    file,
    Buffer.from(["Vorname;E-Mail;PLZ;Kunde seit;Filiale", ...lines].join("\r\n"), "latin1"),
  );
  await page.open("/audience/import");
  await (await page.driver.findElement({ css: "input[type=file]" })).sendKeys(file);
  await page.choose("What PLZ becomes", "A new field");
  await page.sees("lines cannot be taken");
  await shot("import");

  await page.open("/pictures");
  await (await page.find('main [role=option][data-name="Spring rows"]')).click();
  await page.sees("Used in", "aside");
  await shot("pictures");
  await page.press("Edit");
  await page.find("[data-testid=stage] image");
  await page.press("Crop");
  await page.press("3 : 1");
  await page.press("Light");
  await (await page.named("Warmth", "[role=spinbutton]")).sendKeys(
    Key.chord(Key.CONTROL, "a"),
    "18",
    Key.TAB,
  );
  await page.press("Frame");
  await page.press("Words");
  await (await page.find("[role=dialog] aside textarea")).sendKeys(
    Key.chord(Key.CONTROL, "a"),
    "Frost by Thursday",
  );
  await page.press("Strip");
  await page.sees("look at both");
  await shot("picture");

  await page.open(`${base}/all-editions`);
  for (const which of [1, 2]) {
    await (await page.find(`[data-edition="${which}"]`)).click();
    await page.find(`[data-edition="${which}"][aria-pressed=true]`);
  }
  await page.sees("differ in");
  await shot("editions");

  // Every block: as a table of patterns, on a desktop, on a phone and in the dark.
  await page.open(`/campaigns/${await campaignNamed(program, "Pattern book")}/compose`);
  await page.sees("Reading as");
  const whole = async (name: string) => {
    const root = "document.querySelector('[data-testid=canvas]')";
    await page.until(
      () =>
        page.run<boolean>(`return [...${root}.shadowRoot.querySelectorAll('img')].every(i => i.complete)`),
      "pictures are missing",
    );
    const height = await page.run<number>(`return ${root}.offsetHeight`);
    await page.driver
      .manage()
      .window()
      .setRect({ width: 1280, height: height + 500 });
    const box = await page.run<{ left: number; top: number; width: number; height: number }>(
      `const r = ${root}.getBoundingClientRect(); return {left: Math.round(r.x), top: Math.round(r.y), width: Math.round(r.width), height: Math.round(r.height)}`,
    );
    const picture = sharp(Buffer.from(await page.driver.takeScreenshot(), "base64")).extract(box);
    await picture.png({ palette: true }).toFile(`docs/screenshots/${name}.png`);
  };
  await whole("blocks");
} finally {
  await page.driver.quit();
  await program.stop();
}
process.exit(0);
