import { writeFileSync } from "node:fs";
import { openBrowser } from "./e2e/browser";
import { campaignNamed, copyOf } from "./e2e/campaigns";
import { FEW, startProgram } from "./e2e/program";

const program = await startProgram({ contacts: FEW });
const page = await openBrowser(program.address);
const shot = async (name: string) =>
  writeFileSync(`/tmp/${name}.png`, await page.driver.takeScreenshot(), "base64");
try {
  const id = await copyOf(program, await campaignNamed(program, "Bare-root week"));
  await page.open(`/campaigns/${id}/preflight`);
  await page.sees("Fine");
  await page.run("document.querySelector('section[aria-label=Rehearsal]').scrollIntoView()");
  await shot("r1");
  await page.press("Rehearse every message");
  await page.sees("made and read back in");
  await page.run("document.querySelector('section[aria-label=Rehearsal]').scrollIntoView()");
  await shot("r2");
  console.log(await page.words("section[aria-label=Rehearsal]"));
  await page.run("document.querySelector('section[aria-label=Rehearsal] a').click()");
  await page.sees("The message as it was rehearsed");
  await new Promise((r) => setTimeout(r, 800));
  await shot("r3");
} finally {
  await page.driver.quit();
  await program.stop();
}
