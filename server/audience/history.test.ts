/** What rules on behaviour may name. */
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Septima } from "../septima";
import { openWorld } from "../test-world";
import { addContacts } from "./contacts";
import { behaviourNames } from "./history";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addContacts(septima, [{ email: "ines@mail.example", fields: {} }]);
});
afterAll(() => close());

/** Somebody orders something. */
const order = (number: string, product: string, name: string, category: string) =>
  septima.db.query(
    `with placed as (insert into orders (number, contact_id, at, currency, total)
       select $1, min(id), now(), 'GBP', 1 from contacts returning id)
     insert into order_lines (order_id, line, product, name, category, quantity, price)
     select id, 1, $2, $3, $4, 1, 1 from placed`,
    [number, product, name, category],
  );

test("what was bought is named, each once, and so is what is bought from then on", async () => {
  expect(await behaviourNames(septima)).toMatchObject({ products: [], categories: [] });
  await order("1", "p2", "Trowel", "tools");
  await order("2", "p1", "Beans", "");
  await order("3", "p1", "Beans", "seeds");
  const names = await behaviourNames(septima);
  expect(names.products).toEqual([
    { id: "p1", name: "Beans" },
    { id: "p2", name: "Trowel" },
  ]);
  expect(names.categories).toEqual(["seeds", "tools"]);
  expect((await behaviourNames(septima)).products).toEqual(names.products);
  await order("4", "p3", "Apron", "clothes");
  const later = await behaviourNames(septima);
  expect(later.products.map(({ name }) => name)).toEqual(["Apron", "Beans", "Trowel"]);
  expect(later.categories).toContain("clothes");
});
