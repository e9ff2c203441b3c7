/** What older versions kept of sources and of what was sent is items after an upgrade. */
import { cp, mkdtemp, readdir, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { expect, test } from "vitest";
import { itemOf } from "~/core/items";
import { openEmbedded } from "../db/embedded";
import { migrate } from "../db/migrate";
import type { Septima } from "../septima";
import { findItems } from "./items";
import { sources } from "./sources";

const NOW = "2026-03-01T09:00:00.000Z";
const ARTICLE = {
  id: "a",
  title: "Hold your beans",
  link: "https://journal.example/a",
  excerpt: "Nights still touch freezing.",
  picture: "https://journal.example/a.png",
  size: { width: 600, height: 400 },
  published: NOW,
  categories: ["Sowing", "Beans"],
};
const BARE = {
  id: "b",
  title: "Notes",
  link: "",
  excerpt: "",
  picture: null,
  published: null,
  categories: [],
};

test("articles of sources", async () => {
  const older = await mkdtemp(path.join(tmpdir(), "septima-older-"));
  const db = await openEmbedded();
  try {
    for (const name of await readdir("server/db/migrations"))
      if (Number(name.slice(0, 4)) <= 25)
        await cp(path.join("server/db/migrations", name), path.join(older, name));
    await migrate(db, older);
    await db.query(
      `insert into sources (id, name, kind, address, articles, created_at, refreshed_at)
       values ('s', 'Journal', 'feed', 'https://journal.example/feed', $1::jsonb, $2, $2)`,
      [JSON.stringify([ARTICLE, BARE]), NOW],
    );
    await migrate(db, "server/db/migrations");

    const septima = { db, now: () => Date.parse(NOW) } as unknown as Septima;
    const items = [
      itemOf({
        id: "a",
        title: "Hold your beans",
        text: "Nights still touch freezing.",
        link: "https://journal.example/a",
        picture: "https://journal.example/a.png",
        size: { width: 600, height: 400 },
        date: NOW,
        category: ["Sowing"],
        tags: ["Beans"],
      }),
      itemOf({ id: "b", title: "Notes" }),
    ];
    expect((await findItems(septima, {})).items.map(({ item }) => item)).toEqual(items);
    expect((await findItems(septima, { words: "freez" })).items.map(({ item }) => item.id)).toEqual(["a"]);
    expect(await sources(septima)).toMatchObject([{ kind: "feed", format: "feed", held: 2, every: 10 }]);
  } finally {
    await db.close();
    await rm(older, { recursive: true, force: true });
  }
});
