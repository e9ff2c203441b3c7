import { writeFileSync } from "node:fs";
import { openBrowser } from "~/e2e/browser";
import { startBlank } from "~/e2e/campaigns";
import { startProgram } from "~/e2e/program";

const program = await startProgram({ contacts: 2000 });
const page = await openBrowser(program.address);
const shot = async (name: string) =>
  writeFileSync(`/tmp/${name}.png`, Buffer.from(await page.driver.takeScreenshot(), "base64"));
try {
  await startBlank(page, program, "A letter", "Look");
  await page.press("Items by rule");
  await page.choose("From", "Shop");
  await page.onCanvas("Runner bean");
  await shot("p1");
  await page.press("Add a rule");
  await page.choose("What is looked at", "Price");
  await shot("p2");
  await page.choose("Order of way 1", "Cheapest first");
  await new Promise((r) => setTimeout(r, 1500));
  await shot("p3");
} catch (e) {
  console.log(String(e).slice(0, 600));
  await shot("pe");
}
console.log(
  await page.driver
    .manage()
    .logs()
    .get("browser")
    .then((l) => l.map((x) => x.message).join("\n"))
    .catch(() => ""),
);
await page.driver.quit();
await program.stop();
process.exit(0);
