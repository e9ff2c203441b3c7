import { expect, test } from "vitest";
import { csvRecord } from ".";

test("a record is quoted where it has to be", () => {
  expect(csvRecord(["plain", 'she said "yes"', "a,b", "two\nlines", " edge", "", null])).toBe(
    'plain,"she said ""yes""","a,b","two\nlines"," edge",,\r\n',
  );
  expect(csvRecord([true, false, -5, 1.5, ["a", "b"], { odd: 1 }])).toBe(
    'yes,no,-5,1.5,"a, b","{""odd"":1}"\r\n',
  );
});

test.each([
  "=1+1",
  "+44 20 7946 0000",
  "-2+3",
  "@SUM(A1)",
  "\t=1",
  "\r=1",
  '=HYPERLINK("https://a.example")',
])("%j cannot be taken for a formula", (text) => {
  const [, first] = /^"?(.)/s.exec(csvRecord([text]))!;
  expect(first).toBe("'");
  expect(csvRecord([[text]])).toMatch(/^"?'/);
});
