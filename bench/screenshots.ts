/** Takes the pictures of `docs/screenshots/` from fresh demo data: build, then `npm run screenshots`. */
import { mkdir, writeFile } from "node:fs/promises";
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
          "return [...document.images].every(i => i.loading === 'lazy' || i.complete) && document.fonts.status === 'loaded'",
        ),
      "pictures are missing",
    );
    await new Promise((resolve) => setTimeout(resolve, 700));
    await writeFile(
      `docs/screenshots/${name}.png`,
      Buffer.from(await page.driver.takeScreenshot(), "base64"),
    );
  };
  const base = `/campaigns/${await campaignNamed(program, "What to sow now")}`;
  for (const [name, path] of [
    ["campaigns", "/campaigns"],
    ["audience", "/audience"],
    ["sources", "/sources"],
    ["preview", `${base}/preview`],
    ["readers", `${base}/readers`],
    ["send", `${base}/send`],
  ]) {
    await page.open(path);
    await shot(name);
  }
  await page.open(`${base}/proof`);
  await page.fill("To", "hanna@tansyrow.example, piet@tansyrow.example");
  await page.fill("Note", "Is the sowing date right for Marl Bay?");
  await page.press("Send the proof");
  await page.sees("Sent to");
  await shot("proof");
  await page.open("/postroom");
  await page.find("li a[href*='/postroom/']").then((link) => link.click());
  await page.find("iframe[title='The message']");
  await shot("postroom");

  await page.open(`${base}/compose`);
  await page.sees("Reading as");
  await page.clickAt(await page.onCanvas("nights in the"));
  await shot("composer");
  await page.press("Change");
  await shot("rule");
  await page.keys(Key.ESCAPE);
  await page.until(async () => (await page.words("[role=dialog]")) === "", "the dialog stayed");
  const shelf = await page.find('[data-thing="Button"]');
  const target = await page.onCanvas("Tomatoes");
  await page.drag(await page.centre(shelf), { x: target.x, y: target.y + 12 }, () => shot("dragging"));
  await page.press("Outline");
  await page.press("Phone width");
  await shot("phone");
} finally {
  await page.driver.quit();
  await program.stop();
}
process.exit(0);
