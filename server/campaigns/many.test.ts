import { afterAll, beforeAll, expect, test } from "vitest";
import { addOrder, openWorld } from "../test-world";
import { campaigns, startCampaign } from "./campaigns";
import { changeSeveral } from "./many";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

test("several campaigns are labelled, filed, put away and deleted together; one that goes out keeps none of the others", async () => {
  const { septima } = world;
  const ids = await Promise.all(["A", "B", "C"].map((name) => startCampaign(septima, name, "letter")));
  const lines = async (archived = false) =>
    (await campaigns(septima, "", archived))
      .map(({ name, labels, series, season }) => [name, labels.join("+"), series, season].join("/"))
      .sort();
  const [a, b, c] = ids;
  const run = (which: string[], doing: Parameters<typeof changeSeveral>[2]) =>
    changeSeveral(septima, which, doing);
  const first = await run([a, b], { do: "label", labels: "frost, peas" });
  expect([first.done.sort(), first.refused]).toEqual([[a, b].sort(), []]);
  await run(ids, { do: "label", labels: "peas" });
  await run([b], { do: "unlabel", labels: "frost" });
  await run([a, c], { do: "series", series: " Monthly " });
  await run([c], { do: "season", season: "winter" });
  expect(await lines()).toEqual(["A/frost+peas/Monthly/", "B/peas//", "C/peas/Monthly/winter"]);
  await addOrder(septima, b, "sending");
  const gone = await run(ids, { do: "delete" });
  expect([gone.done.sort(), gone.refused]).toEqual([
    [a, c].sort(),
    ["“B”: This campaign is going out. Cancel the sending first, then delete it."],
  ]);
  await run([a, c], { do: "restore" });
  await run([a], { do: "archive" });
  expect(await lines()).toHaveLength(2);
  expect(await lines(true)).toEqual(["A/frost+peas/Monthly/"]);
});
