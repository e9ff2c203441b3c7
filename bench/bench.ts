/**
 * Speed, measured against a named reference in the same run: `npm run bench`, all of it, or `npm run bench browser saving`
 * for some. Ratios travel between machines, times do not. Nothing here is asserted.
 */
import { audienceLines } from "./audience";
import { behaviourLines } from "./behaviour";
import { browserLines } from "./browser";
import { clickLines } from "./clicks";
import { codeLines } from "./codes";
import { doorLines } from "./doors";
import { findingLines } from "./finding";
import { importLines } from "./importing";
import { largeLines } from "./large";
import { ledgerLines } from "./ledger";
import type { Line } from "./line";
import { liveLines } from "./live";
import { messageLines } from "./message";
import { personalLines } from "./personal";
import { pictureLines } from "./pictures";
import { rehearsalLines } from "./rehearsal";
import { savingLines } from "./saving";
import { sendingLines } from "./sending";
import { sourceLines } from "./sources";
import { wireLines } from "./wire";

const GROUPS: Readonly<Record<string, () => Line[] | Promise<Line[]>>> = {
  message: messageLines,
  personal: personalLines,
  audience: audienceLines,
  behaviour: behaviourLines,
  importing: importLines,
  large: largeLines,
  ledger: ledgerLines,
  rehearsal: rehearsalLines,
  sending: sendingLines,
  wire: wireLines,
  clicks: clickLines,
  codes: codeLines,
  sources: sourceLines,
  live: liveLines,
  doors: doorLines,
  finding: findingLines,
  saving: savingLines,
  pictures: pictureLines,
  browser: browserLines,
};

const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !Object.hasOwn(GROUPS, name));
if (unknown.length > 0) {
  console.error(`There is no group ${unknown.join(", ")}. There are: ${Object.keys(GROUPS).join(", ")}.`);
  process.exit(2);
}
let failed = false;
for (const [name, measure] of Object.entries(GROUPS)) {
  if (asked.length > 0 && !asked.includes(name)) continue;
  console.log(`\n${name}`);
  try {
    const lines = await measure();
    const width = Math.max(...lines.map(([what]) => what.length));
    for (const [what, result, goal] of lines)
      console.log(`  ${what.padEnd(width)}  ${result}${goal ? `   (goal: ${goal})` : ""}`);
  } catch (error) {
    failed = true;
    console.log("  could not be measured:", error);
  }
}
process.exit(failed ? 1 : 0);
