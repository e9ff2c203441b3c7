/** Two processes on one PostgreSQL server: neither decides anything by what the other has changed. */
import { expect, test } from "vitest";
import { addContacts } from "./audience/contacts";
import { fieldsOf, saveField } from "./audience/fields";
import { audienceContext, saveSegment } from "./audience/groups";
import { addEvents } from "./audience/history";
import { recordTables, saveTable } from "./audience/records";
import { countSelection, selectedReaders } from "./audience/selection";
import { startCampaign } from "./campaigns/campaigns";
import { hearChanges } from "./changes";
import { migrate } from "./db/migrate";
import { openServer } from "./db/postgres";
import { serverPrograms, startServer } from "./db/test-server";
import type { Septima } from "./septima";
import { addBatch, codeFacts } from "./sources/codes";
import { addList, openWorld, TEST_BRAND } from "./test-world";
import { lookupsOf, saveLookup } from "./workspace/lookups";
import { brandOf, setBrand, setZone, zoneOf } from "./workspace/settings";
import { allThemes, saveTheme } from "./workspace/themes";

/** Waits until an answer is what it should be. */
async function becomes<T>(ask: () => Promise<T>, wanted: T) {
  await expect.poll(ask, { timeout: 5000, interval: 20 }).toEqual(wanted);
}

test.skipIf(serverPrograms() === null)(
  "what one process keeps in memory and another changes is asked anew; migrations are done by one of those that start",
  { timeout: 60_000 },
  async () => {
    const server = await startServer();
    const one = openServer(server.url);
    const other = openServer(server.url);
    const { septima, close } = await openWorld();
    try {
      await Promise.all([one, other].map((db) => migrate(db, "server/db/migrations")));
      const mine: Septima = { ...septima, db: one, cache: new Map() };
      const theirs: Septima = { ...septima, db: other, cache: new Map() };
      await hearChanges(mine);
      await setBrand(mine, TEST_BRAND);
      await setZone(mine, "Europe/London");
      await addList(mine, "all", "All");
      const people = (from: number) =>
        addContacts(
          theirs,
          [0, 1, 2].map((n) => ({
            email: `r${from + n}@mail.example`,
            fields: { n: String(n) },
            lists: ["all"],
          })),
        );
      await people(0);

      const brand = async () => (await brandOf(mine)).name;
      expect(await brand()).toBe(TEST_BRAND.name);
      await setBrand(theirs, { ...TEST_BRAND, name: "Another" });
      await becomes(brand, "Another");

      const context = () => audienceContext(mine);
      const zone = async () => (await context()).zone;
      expect(await zone()).toBe("Europe/London");
      await setZone(theirs, "Asia/Tokyo");
      await becomes(zone, "Asia/Tokyo");
      expect(await zoneOf(mine)).toBe("Asia/Tokyo");

      const chosen = { include: [{ kind: "segment" as const, id: "few" }], exclude: [] };
      const field = (value: string) => ({ kind: "field", field: "n", op: "is", value }) as const;
      await saveField(theirs, { key: "n", label: "N", kind: "text" });
      await becomes(async () => (await fieldsOf(mine)).some(({ key }) => key === "n"), true);
      await saveSegment(theirs, { id: "few", name: "Few", rule: field("1") });
      const readers = async () => {
        try {
          return (await selectedReaders(mine, chosen)).readers.count();
        } catch (error) {
          return (error as Error).message;
        }
      };
      await becomes(readers, 1);
      await people(3);
      await becomes(readers, 2);
      expect((await countSelection(mine, chosen)).readers).toBe(2);
      await saveSegment(theirs, { id: "few", name: "Few", rule: { kind: "all", of: [] } });
      await becomes(readers, 6);
      await theirs.db.query("update contacts set status = 'unsubscribed' where email = 'r0@mail.example'");
      await becomes(readers, 5);

      const id = await startCampaign(theirs, "Letter", "letter");
      await saveSegment(theirs, {
        id: "few",
        name: "Few",
        rule: { kind: "did", what: "opened", often: "atLeast", times: 1 },
      });
      await becomes(readers, 0);
      await addEvents(theirs.db, [{ what: "opened", contact: 2, at: new Date(), campaign: id }]);
      await becomes(readers, 1);

      const lookups = async () => (await lookupsOf(mine)).map(({ name }) => name);
      expect(await lookups()).toEqual([]);
      await saveLookup(
        theirs,
        { key: "offer", name: "Offer", kind: "text", cases: [], otherwise: { text: "peas" } },
        null,
      );
      await becomes(lookups, ["Offer"]);

      const codes = async () => (await codeFacts(mine)).map(({ name }) => name);
      expect(await codes()).toEqual([]);
      await addBatch(
        theirs,
        { key: "gift", name: "Gift", per: "campaign", example: "E", low: 0, ends: null },
        "A\nB",
      );
      await becomes(codes, ["Gift"]);

      const tables = async () => (await recordTables(mine)).map(({ name }) => name);
      expect(await tables()).toEqual([]);
      await saveTable(theirs, { id: "branches", name: "Branches", facts: [] });
      await becomes(tables, ["Branches"]);

      const themes = async () => (await allThemes(mine)).length;
      const before = await themes();
      const [theme] = await allThemes(theirs);
      await saveTheme(theirs, { ...theme, name: "Our own" }, null);
      await becomes(themes, before + 1);
    } finally {
      await close();
      await one.close();
      await other.close();
      await server.stop();
    }
  },
);
