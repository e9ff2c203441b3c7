/** A reader's own link, from the block that asks for friends to a friend on the list. */
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { By, keepFailure, openBrowser, type Page } from "./browser";
import { eventually, sendToLetter, startBlank } from "./campaigns";
import { download, mailboxOf } from "./postroom";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let campaign: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

const press = async (words: string) =>
  (await page.driver.findElement(By.xpath(`//button[normalize-space(.)=${JSON.stringify(words)}]`))).click();
/** A mail with such words in its subject, once it is there. */
const mailWith = (words: string) =>
  eventually(`a mail with “${words}”`, async () => {
    const [listed] = await mailboxOf(program, words);
    return listed ? download(program, listed) : null;
  });

test("the programme says what readers earn, and keeps it", async () => {
  await page.open("/referrals");
  await page.press("Reward");
  await page.fill("What they earn for 12 friends", "a tree of your choice");
  await page.press("Save the programme");
  await page.sees("The programme is saved.");
  await page.open("/referrals");
  await page.until(
    async () =>
      (await (await page.named("What they earn for 12 friends")).getAttribute("value")) ===
      "a tree of your choice",
    "the reward is gone",
  );
});

test("the block counts friends by each reader's own link, seen on the canvas", async () => {
  campaign = await startBlank(page, program, "A letter", "Friends letter");
  await page.press("Subject");
  await page.keys("Bring a friend");
  await page.clickAt(await page.onCanvas("Read more"));
  await page.fill("Leads to", "https://tansyrow.example/friends");
  await page.press("Refer");
  await page.onCanvas("Do you know somebody");
  await page.press("By each reader’s own link");
  await page.onCanvas("0 of your friends read these letters because of you.");
  await page.onCanvas("Next, for 1: a packet of sweet peas at the till");
  await page.fill("Next", "At {at} you get {reward}.");
  await page.onCanvas("At 1 you get a packet of sweet peas at the till.");
  await page.saved();
});

test("a friend joins by the link in a reader's mail, confirms from their own, and is counted", async () => {
  await sendToLetter(page, program, campaign);
  const mail = await mailWith("Bring a friend");
  const link = /\/join\/[\w.-]+/.exec(String(mail.text))?.[0] ?? "";
  await page.open(link);
  await page.sees("Once a month: what to sow");
  await page.fill("Your email address", "ottilie@post.example");
  await page.fill("Your first name, if you like", "Ottilie");
  await page.driver.findElement(By.css("input[name=agreed]")).click();
  await press("Ask for the letters");
  await page.sees("Look into your mailbox");
  const confirm = await mailWith("Please confirm");
  expect(confirm.to && "value" in confirm.to && confirm.to.value[0].address).toBe("ottilie@post.example");
  await page.open(/\/join\/confirm\/[\w.-]+/.exec(String(confirm.text))?.[0] ?? "");
  await page.sees("One press more");
  await press("Yes, send them");
  await page.sees("You are on the list");
  // In whichever language the reader reads: what they get, at their own address.
  const thanks = await mailWith("a packet of sweet peas at the till");
  expect(thanks.to && "value" in thanks.to && thanks.to.value[0].address).toBe(
    mail.to && "value" in mail.to && mail.to.value[0].address,
  );
  await page.open("/referrals");
  await page.sees("1 friend asked, 1 confirmed. 1 reward sent.");
  await page.open("/audience?q=ottilie");
  await page.sees("ottilie@post.example");
});
