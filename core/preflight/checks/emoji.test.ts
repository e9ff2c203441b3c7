import data from "emojibase-data/en/data.json";
import { expect, test } from "vitest";
import { newEmoji } from "./emoji";

test("an emoji counts as new when the list of all says that it came with Unicode 14 or later", () => {
  const ones = data.filter(({ hexcode }) => !hexcode.includes("-"));
  expect(ones.length).toBeGreaterThan(1000);
  const wrong = ones.filter(({ emoji, version }) => (newEmoji(emoji) !== null) !== version >= 14);
  expect(wrong.map(({ emoji, version }) => `${emoji} ${version}`)).toEqual([]);
});
