/** What comes in from outside is refused at the door, whatever it is. */
import { expect, test } from "vitest";
import { RuleSchema } from "~/core/audience";
import { formInput, jsonInput } from "./input";

const post = (body: BodyInit) => new Request("https://septima.example/", { method: "POST", body });
const refusal = (work: Promise<unknown>) =>
  work.then(
    () => "taken",
    (thrown: { data?: string; init?: { status?: number } }) => `${thrown.init?.status} ${thrown.data}`,
  );

test.each([
  ["arrays", (depth: number) => "[".repeat(depth) + "]".repeat(depth)],
  ["rules", (depth: number) => `${'{"kind":"all","of":['.repeat(depth)}${"]}".repeat(depth)}`],
])("%s nested deeper than anything is are refused, however deep", async (_what, make) => {
  for (const depth of [500, 4000, 100_000, 1_000_000])
    expect(await refusal(jsonInput(post(make(depth)), RuleSchema))).toMatch(/^400 /);
});

test.each([
  ["NUL", '{"a":"b\\u0000"}'],
  ["half a sign", '{"a":"\\ud800"}'],
  ["NUL in a key", '{"\\u0000":1}'],
  ["no JSON", "{"],
])("%s is refused", async (_what, body) => {
  const anything = { parse: (value: unknown) => value };
  expect(await refusal(jsonInput(post(body), anything))).toMatch(/^400 /);
});

test("a form with NUL in it is refused", async () => {
  expect(await refusal(formInput(post(new URLSearchParams({ a: "b\0" }))))).toMatch(/^400 /);
  expect(await refusal(formInput(post(new URLSearchParams({ a: "b" }))))).toBe("taken");
});
