/** The table of what refers to what; that it is what a walk finds is asked at the end of every test world. */
import { copyFile, mkdir, mkdtemp, readdir, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { type MentionKind, mentionsIn } from "~/core/compose";
import { type Block, blocksOf, type Email, type Inline, paragraphOf } from "~/core/email";
import { addContacts } from "./audience/contacts";
import { saveSegment } from "./audience/groups";
import {
  addCampaign,
  campaign,
  deleteCampaign,
  emptyBin,
  setReaders,
  startCampaign,
} from "./campaigns/campaigns";
import { addClipping } from "./campaigns/clippings";
import { keepAutomatically, keepVersion } from "./campaigns/versions";
import { openEmbedded } from "./db/embedded";
import { migrate } from "./db/migrate";
import { bookDispatch } from "./dispatch/bookings";
import { fillMentions, usesOf, walkMentions } from "./mentions";
import { saveProgramme } from "./referrals/programme";
import type { Septima } from "./septima";
import { addList, openWorld, saveDesign } from "./test-world";
import { saveLookup } from "./workspace/lookups";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addList(septima, "friends", "Friends");
});
afterAll(() => close());

const tag = (field: string): Inline => ({
  type: "mergeTag",
  attrs: { field, fallback: "", format: "asIs" },
});

/** A design that refers to one of each kind. */
function referring(email: Email, clipping: string): Email {
  const words = paragraphOf(
    "To ",
    tag("nickname"),
    " by ",
    tag("lookup.branch.phone"),
    { type: "text", text: "{$size} /pictures/words.png" },
    {
      type: "either",
      attrs: {
        cases: [{ when: { kind: "segment", segment: "near", in: true }, words: [tag("code.spring")] }],
        otherwise: [{ type: "text", text: "all" }],
      },
    },
  );
  const of = (type: Parameters<typeof createBlock>[0], more: object): Block =>
    ({ ...createBlock(type, `of ${type}`), ...more }) as Block;
  const blocks = [
    of("text", { content: { type: "doc", content: [words] }, clipping }),
    of("image", { src: "/pictures/bed.png", href: "https://a.example/?t={$tone else=|x|}" }),
    of("picks", { source: "feed" }),
    of("divider", {
      show: {
        kind: "any",
        of: [
          { kind: "list", list: "friends", in: true },
          { kind: "did", what: "opened", often: "atLeast", times: 1, campaign: "earlier" },
        ],
      },
    }),
    ...blocksOf(email).filter(({ type }) => type === "footer"),
  ];
  return {
    ...email,
    theme: "garden",
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] }],
  };
}

async function start(name: string, clipping = "cut"): Promise<string> {
  const blank = await startCampaign(septima, "Blank", "letter");
  return addCampaign(septima, {
    name,
    series: "",
    email: referring((await campaign(septima, blank)).email, clipping),
  });
}

const users = async (kind: MentionKind, key: string) =>
  (await usesOf(septima.db, kind, [key])).map((use) => `${use.kind} ${use.name}${use.held ? ", held" : ""}`);

test("every kind of thing is found where it is used, and nothing that only looks like it", async () => {
  const id = await start("Everything");
  const asked: [MentionKind, string][] = [
    ["field", "nickname"],
    ["field", "tone"],
    ["lookup", "branch"],
    ["segment", "near"],
    ["code", "spring"],
    ["clipping", "cut"],
    ["picture", "bed.png"],
    ["source", "feed"],
    ["list", "friends"],
    ["campaign", "earlier"],
    ["theme", "garden"],
  ];
  for (const [kind, key] of asked)
    expect([kind, await users(kind, key)]).toEqual([kind, ["campaign Everything"]]);
  // What is written as words is words.
  expect(await users("field", "size")).toEqual([]);
  expect(await users("picture", "words.png")).toEqual([]);
  expect(await users("lookup", "phone")).toEqual([]);
  const { email } = await campaign(septima, id);
  const left = blocksOf(email).filter(({ type }) => type === "footer" || type === "image");
  const [section] = email.sections;
  await saveDesign(septima, id, {
    ...email,
    sections: [{ ...section, rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: left }] }] }],
  });
  expect(await users("picture", "bed.png")).toEqual(["campaign Everything"]);
  for (const [kind, key] of asked.filter(([, key]) => !["bed.png", "tone", "garden"].includes(key)))
    expect([kind, await users(kind, key)]).toEqual([kind, []]);
  await deleteCampaign(septima, id);
  expect(await users("picture", "bed.png")).toEqual([]);
});

test("readers, segments, lookups, clippings and settings refer to things, too", async () => {
  await addList(septima, "club", "Club");
  const club = { kind: "list" as const, list: "club", in: true };
  const id = await start("To the club");
  await setReaders(septima, id, { include: [{ kind: "list", id: "club" }], exclude: [] });
  await saveSegment(septima, { id: "of-club", name: "Of the club", rule: { kind: "none", of: [club] } });
  await saveLookup(
    septima,
    {
      key: "address",
      name: "Address",
      kind: "text",
      cases: [{ name: "Club", when: club, value: { text: "Dear {$nickname2}" } }],
      otherwise: { text: "Hello" },
    } as Parameters<typeof saveLookup>[1],
    null,
  );
  const some = { ...createBlock("divider", "d"), show: club };
  await addClipping(septima, "Only for some", "row", {
    id: "r",
    columns: [{ id: "c", width: 100, blocks: [some] }],
  });
  await saveProgramme(septima, {
    on: true,
    list: "club",
    title: "Bring a friend",
    words: "",
    consent: "Yes",
    steps: [],
  });
  expect(await users("list", "club")).toEqual([
    "campaign To the club",
    "segment Of the club",
    "lookup Address",
    "clipping Only for some",
    "referrals Bring a friend",
  ]);
  expect(await users("field", "nickname2")).toEqual(["lookup Address"]);
  await setReaders(septima, id, { include: [{ kind: "everyone", id: "" }], exclude: [] });
  expect(await users("list", "club")).not.toContain("campaign To the club");
});

test("what is booked is held; what is gone for good refers to nothing", async () => {
  const id = await start("Thrown away", "thrown");
  await keepVersion(septima, id, "First");
  const held = async () =>
    (await septima.db.query("select 1 from mentions where kind = 'clipping' and key = 'thrown'")).length;
  expect(await held()).toBe(2);
  await deleteCampaign(septima, id);
  await emptyBin({ ...septima, now: () => Date.now() + 40 * 86_400_000 });
  expect(await held()).toBe(0);

  const sent = await startCampaign(septima, "Goes out", "letter");
  const { email } = await campaign(septima, sent);
  const next = structuredClone(email);
  next.theme = "plum";
  next.envelope.subject = [{ type: "text", text: "Now" }];
  for (const block of blocksOf(next)) if (block.type === "button") block.href = "https://shop.example/";
  await saveDesign(septima, sent, next);
  await addContacts(septima, [{ email: "one@mail.example", fields: {}, lists: ["friends"] }]);
  await setReaders(septima, sent, { include: [{ kind: "list", id: "friends" }], exclude: [] });
  await bookDispatch(septima, sent, { confirmed: 1, when: null });
  expect(await users("theme", "plum")).toEqual(["campaign Goes out, held"]);
  const [dispatched] = await septima.db.query<{ keys: string[] }>(
    "select array_agg(kind || ' ' || key order by kind, key) as keys from mentions where holder = 'dispatch'",
  );
  expect(dispatched.keys).toEqual(expect.arrayContaining(["list friends", "theme plum"]));
});

test("a workspace from before is filled at its migration, as a walk finds it", async () => {
  const folder = await mkdtemp(path.join(tmpdir(), "septima-migrations-"));
  const all = "server/db/migrations";
  const files = (await readdir(all)).sort();
  const before = path.join(folder, "before");
  await mkdir(before);
  for (const name of files.filter((one) => one < "0017"))
    await copyFile(path.join(all, name), path.join(before, name));
  const db = await openEmbedded();
  try {
    await migrate(db, before);
    const email = referring((await campaign(septima, await start("Old"))).email, "cut");
    await db.query(
      `insert into campaigns (id, name, email, readers, created_at, updated_at)
       values ('old', 'Old', $1::jsonb, '{"include": [{"kind": "list", "id": "l"}], "exclude": []}', now(), now()),
         ('torn', 'Torn', '{"sections": 3}', '{"include": [], "exclude": []}', now(), now())`,
      [JSON.stringify(email)],
    );
    await db.query(
      "insert into versions (id, campaign_id, email, revision, kept_at) select 'v', id, email, 1, now() from campaigns where id = 'old'",
    );
    await db.query(
      "insert into settings (key, value) values ('brand', '{\"logo\": \"/pictures/logo.png\"}')",
    );
    await migrate(db, all, { 17: fillMentions });
    const kept = await db.query("select holder, which, kind, key from mentions");
    const walked = await walkMentions(db);
    expect(kept.length).toBe(2 * mentionsIn(email).length + 2);
    expect(walked).toHaveLength(kept.length);
    expect(walked).toEqual(expect.arrayContaining(kept));
    expect((await usesOf(db, "list", ["l"])).map(({ id }) => id)).toEqual(["old"]);
    expect((await usesOf(db, "picture", ["logo.png"])).map(({ kind }) => kind)).toEqual(["brand"]);
  } finally {
    await db.close();
    await rm(folder, { recursive: true, force: true });
  }
});

test("with 2,000 campaigns the answer is there at once", async () => {
  const { email } = await campaign(septima, await start("One of many", "everywhere"));
  await septima.db.query(
    `with made as (insert into campaigns (id, name, email, created_at, updated_at)
       select 'many' || n, 'Many ' || n, $1::jsonb, now(), now() from generate_series(1, 2000) n returning id)
     insert into mentions (holder, which, kind, key) select distinct 'design', made.id, kind, key
     from made, unnest($2::text[], $3::text[]) as m (kind, key)`,
    [
      JSON.stringify(email),
      ...["kind", "key"].map((part) => mentionsIn(email).map((one) => one[part as "kind"])),
    ],
  );
  await septima.db.query("analyze");
  const plan = await septima.db.query<{ "QUERY PLAN": string }>(
    "explain select which from mentions where kind = 'clipping' and key = 'none'",
  );
  expect(plan.map((row) => row["QUERY PLAN"]).join()).toContain("mentions_of");
  expect(await usesOf(septima.db, "clipping", ["everywhere"])).toHaveLength(2001);
  expect(await usesOf(septima.db, "clipping", ["nowhere"])).toEqual([]);
  await septima.db.query("delete from campaigns where id like 'many%'");
});

test("versions that are kept by themselves refer to what they show, and go with it", async () => {
  const id = await start("Versions", "versioned");
  let now = Date.now();
  const later = { ...septima, now: () => now };
  for (let turn = 0; turn < 3; turn++) {
    await keepAutomatically(later, later.db, id, null);
    now += 11 * 60_000;
  }
  const rows = await septima.db.query(
    "select distinct which from mentions where holder = 'version' and key = 'versioned'",
  );
  expect(rows).toHaveLength(3);
  expect(await users("clipping", "versioned")).toEqual(["campaign Versions"]);
});
