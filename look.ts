import { writeFile } from "node:fs/promises";
import { startProgram } from "./e2e/program";
import { openBrowser, By, Key } from "./e2e/browser";
const program = await startProgram({ contacts: 500 });
const page = await openBrowser(program.address);
const shot = async (name: string) => writeFile(`/tmp/${name}.png`, Buffer.from(await page.driver.takeScreenshot(), "base64"));
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
try {
  await page.open("/brand"); await page.press("Take them from the logo"); await page.sees("every pair"); await wait(400); await shot("b1");
} finally { await page.driver.quit(); await program.stop(); }
