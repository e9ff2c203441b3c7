/** Preflight on the server: what an edition shows stops a booking; mends and what is set aside are kept. */
import { afterAll, beforeAll, expect, test } from "vitest";
import { blocksOf, mapEmail, paragraphOf } from "~/core/email";
import { campaign } from "../campaigns/campaigns";
import { bookDispatch } from "../dispatch/bookings";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { setAside, takeUp } from "./aside";
import { findingsOf, mendFinding, preflight, takeBackMend } from "./preflight";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addReaders(septima, "garden", 3);
});
afterAll(() => close());
const letter = (subject: string) => readyLetter(septima, "garden", () => [{ type: "text", text: subject }]);

test("a tag that would be sent as it is typed is seen in the edition alone, and holds the booking", async () => {
  const id = await letter("Hello {$first_name}");
  expect((await preflight(septima, id, { quick: true })).findings.map(({ check }) => check)).not.toContain(
    "unfilled",
  );
  expect((await findingsOf(septima, id)).map(({ check }) => check)).toContain("unfilled");
  await expect(bookDispatch(septima, id, { confirmed: 3, when: null, tolerance: null })).rejects.toThrow(
    "The subject still shows a tag",
  );
});

test("a finding is mended and the mend taken back; set aside with a reason until its place is another", async () => {
  const id = await letter("Sow now");
  const { email } = await campaign(septima, id);
  const [first] = blocksOf(email).filter(({ type }) => type === "text");
  const said = (words: string) => ({ type: "doc", content: [paragraphOf(words)] });
  const with_ = (words: string) =>
    mapEmail(email, (node) =>
      node.id === first.id ? ({ ...node, content: said(words) } as typeof node) : node,
    );
  await saveDesign(septima, id, with_("Hold the the beans."));
  const twice = async () => (await preflight(septima, id)).findings.find(({ check }) => check === "twice");
  const found = (await twice())!;
  await expect(setAside(septima, id, { ...found, reason: " " })).rejects.toThrow("Say why it may stay");
  await setAside(septima, id, { ...found, reason: "A quotation" });
  expect((await twice())?.aside?.reason).toBe("A quotation");
  await takeUp(septima, id, found.id);
  expect((await twice())?.aside).toBeNull();
  await setAside(septima, id, { ...found, reason: "A quotation" });
  await saveDesign(septima, id, with_("Hold the the beans until May."));
  expect(await twice()).toMatchObject({ id: found.id, aside: null });
  const back = await mendFinding(septima, id, found.id);
  expect(await twice()).toBeUndefined();
  await expect(mendFinding(septima, id, found.id)).rejects.toThrow("not found any more");
  await takeBackMend(septima, id, back);
  expect(await twice()).toMatchObject({ id: found.id });
});
