import { expect, test } from "vitest";
import { adviseSubject, adviseText, readingEase } from ".";

const short = (text: string) => adviseText(text).map(({ kind, words, instead }) => [kind, words, instead]);

test("wordy, shouting and passive places are found with what could stand there", () => {
  expect(short("In order to sow, FREE SEEDS are given!! Prior to frost, make use of fleece.")).toEqual([
    ["wordy", "In order to", "To"],
    ["shouting", "FREE SEEDS", null],
    ["passive", "are given", null],
    ["shouting", "!!", "!"],
    ["wordy", "Prior to", "Before"],
    ["wordy", "make use of", "use"],
  ]);
  expect(short("A short sentence. The RSPB and a NASA badge? Sow now!")).toEqual([
    ["shouting", "RSPB", null],
    ["shouting", "NASA", null],
  ]);
});

test("a long sentence is found where it stands", () => {
  const long = `${"word ".repeat(26).trim()}.`;
  const text = `Short one. ${long} Short again.`;
  const [found] = adviseText(text);
  expect(found).toMatchObject({ kind: "long", words: long });
  expect(text.slice(found.from, found.to)).toBe(long);
});

test("reading ease: plain words are easier than long ones, and few words say nothing", () => {
  expect(readingEase("Sow peas.")).toBeNull();
  const plain =
    "The sun is out. The soil is warm. We sow peas and beans now. You can do it too. Come and see us soon.";
  const dense =
    "Horticultural professionals universally acknowledge considerable environmental considerations regarding systematic experimental cultivation methodologies throughout predominantly industrialised agricultural organisations internationally, notwithstanding perpetually fluctuating meteorological circumstances.";
  expect(readingEase(plain)!).toBeGreaterThan(90);
  expect(readingEase(dense)!).toBeLessThan(10);
});

test("subject and preheader as an inbox sees them", () => {
  const about = (subject: string, preheader: string) =>
    adviseSubject(subject, preheader).map((it) => `${it.about}: ${it.why}`);
  const good = "Start on a windowsill: what the frost of this week means for you";
  expect(about("Hold your beans", good)).toEqual([]);
  expect(about("", "")).toHaveLength(2);
  expect(about("x".repeat(75), good)[0]).toMatch(/75 characters.*70/);
  expect(about("FREE SEEDS FOR ALL!!", good).join()).toMatch(/shouting.*exclamation.*“free”/);
  expect(
    about("Sow your winter beans", "Sow your winter beans before the frost of this week comes")[0],
  ).toMatch(/repeats the subject/);
});
