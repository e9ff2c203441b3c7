/** Proofs: as one reader, one of each edition, some at random; to groups that are kept. */
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Rule } from "~/core/audience";
import { blocksOf, mapEmail } from "~/core/email";
import { addContacts } from "../audience/contacts";
import type { Septima } from "../septima";
import { addList, addReaders, everybody, openWorld, readyLetter, saveDesign } from "../test-world";
import { campaign } from "./campaigns";
import { dropProofGroup, keepProofGroup, proofGroups, proofs, sendProof } from "./proofs";

let septima: Septima;
let close: () => Promise<void>;
let id: string;
const ZONES = ["cool", "mild", "warm"];
const zone = (value: string): Rule => ({ kind: "field", field: "zone", op: "is", value });

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addReaders(septima, "garden", 12, (at) => ({ zone: ZONES[at % 6 === 0 ? 2 : at % 2] }));
  id = await readyLetter(septima, "garden", () => [{ type: "text", text: "Sow now" }]);
  const { email } = await campaign(septima, id);
  const [first] = blocksOf(email).filter(({ type }) => type !== "footer");
  await saveDesign(
    septima,
    id,
    mapEmail(email, (node) => (node.id === first.id ? { ...node, show: zone("warm") } : node)),
  );
});
afterAll(() => close());

/** All messages to an address, read back. */
async function mailTo(address: string) {
  const { messages } = await septima.mailboxes!.search({ text: address, offset: 0, limit: 100 });
  return Promise.all(messages.map(async (one) => simpleParser((await septima.mailboxes!.source(one.id))!)));
}

test("one of each edition goes out, each saying which it is, how many get it and why", async () => {
  const sent = await sendProof(septima, id, {
    to: "team@marlmoss.example",
    contactId: 0,
    note: "Please look",
    as: "editions",
  });
  expect(sent).toEqual({ addresses: ["team@marlmoss.example"], readers: 2 });
  const said = (await mailTo("team@marlmoss.example")).map(({ text }) =>
    text?.split("\n\n")[0].replace(/\s+/g, " "),
  );
  expect(said).toHaveLength(2);
  expect(said.filter((one) => /Edition 1 of 2; 10 readers get it/.test(one ?? ""))).toHaveLength(1);
  expect(
    said.filter((one) => /Edition 2 of 2; 2 readers get it: .*warm.* Please look$/.test(one ?? "")),
  ).toHaveLength(1);
  const told = await proofs(septima, id);
  expect(told.map(({ edition }) => edition).sort()).toEqual([
    expect.stringMatching(/^Edition 1 of 2/),
    expect.stringMatching(/^Edition 2 of 2/),
  ]);
});

test("some at random are five different readers; the subject says that it is a proof or not, by choice", async () => {
  const asked = { to: "random@marlmoss.example", contactId: 0, note: "", as: "random" as const };
  expect(await sendProof(septima, id, { ...asked, marked: false })).toMatchObject({ readers: 5 });
  const mails = await mailTo("random@marlmoss.example");
  expect(mails.map(({ subject }) => subject)).toEqual(Array(5).fill("Sow now"));
  const as = mails.map(({ text }) => /^Proof, as (\S+) would get it/.exec(text ?? "")?.[1]);
  expect(new Set(as).size).toBe(5);
  const known = new Set((await everybody(septima)).map(({ email }) => email));
  for (const one of as) expect(known).toContain(one);
});

test("a reader who would not get it is told as such; too many messages are refused before the first", async () => {
  await addList(septima, "others", "others");
  await addContacts(septima, [{ email: "else@mail.example", fields: {}, lists: ["others"] }]);
  const outsider = (await everybody(septima)).find(({ email }) => email === "else@mail.example")!;
  await sendProof(septima, id, { to: "one@marlmoss.example", contactId: outsider.id, note: "" });
  expect((await mailTo("one@marlmoss.example"))[0].text).toMatch(
    /would get it\. They are not among its readers now\./,
  );
  const many = Array.from({ length: 20 }, (_, at) => `many${at}@marlmoss.example`).join(", ");
  await expect(sendProof(septima, id, { to: many, contactId: 0, note: "", as: "random" })).rejects.toThrow(
    "That would be 100 messages: 5 readers times 20. One proof is 60 at most.",
  );
  expect(await mailTo("many0@marlmoss.example")).toEqual([]);
});

test("groups are kept by their names, replaced, and forgotten; wrong addresses are named", async () => {
  await keepProofGroup(septima, " Team ", "a@marlmoss.example; b@marlmoss.example");
  await keepProofGroup(septima, "agency", "c@marlmoss.example");
  expect(await proofGroups(septima)).toEqual([
    { name: "agency", addresses: ["c@marlmoss.example"] },
    { name: "Team", addresses: ["a@marlmoss.example", "b@marlmoss.example"] },
  ]);
  await keepProofGroup(septima, "Team", "d@marlmoss.example");
  await expect(keepProofGroup(septima, "Team", "nobody@")).rejects.toThrow("“nobody@” is not an address");
  await expect(keepProofGroup(septima, " ", "d@marlmoss.example")).rejects.toThrow("Give the group a name");
  await dropProofGroup(septima, "agency");
  expect(await proofGroups(septima)).toEqual([{ name: "Team", addresses: ["d@marlmoss.example"] }]);
});
