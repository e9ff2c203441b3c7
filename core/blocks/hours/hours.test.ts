import { expect, test } from "vitest";
import { bind, personalise, previewAddresses, readerOf } from "../../personal";
import { compile } from "../../render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "../../render/sample";
import { type HoursBlock, parseEmail } from "..";
import { hours } from ".";

function messageIn(language: string, more: Partial<HoursBlock>) {
  const email = { ...sampleEmail(1), language };
  const block = { ...hours.create("h"), ...more };
  const rows = [{ id: "r", columns: [{ id: "c", width: 100, blocks: [block] }] }];
  const whole = parseEmail({ ...email, sections: [{ id: "s", rows }, ...email.sections] });
  const world = sampleWorld("2026-11-25");
  const reader = readerOf(sampleContact(1, {}), language, previewAddresses("https://septima.example"));
  return personalise(bind(compile(whole, SAMPLE_OPTIONS), world), reader);
}
const closed = [{ id: "1", on: "2026-12-24" }, { id: "2", on: "2027-01-01" }, { id: "3" }];

test("closed days stand in the language of the message, and not without a day", () => {
  const english = messageIn("en", { closed });
  expect(english.text).toContain("Closed on 24 December 2026, 1 January 2027\n");
  expect(english.html).toContain("Closed on 24 December 2026, 1 January 2027");
  const german = messageIn("de", { closed, closedWords: "Geschlossen am" });
  expect(german.text).toContain("Geschlossen am 24. Dezember 2026, 1. Januar 2027\n");
  const without = messageIn("en", { closed: [{ id: "1" }] });
  expect(without.html + without.text).not.toContain("Closed on");
});

test("hours are a table of facts: what a row is about is its heading", () => {
  const { html, text } = messageIn("en", {});
  expect(html.match(/<th scope="row"[^>]*>Saturday<\/th><td[^>]*>9 to 1<\/td>/)).not.toBeNull();
  expect(text).toContain("Monday to Friday: 9 to 6\nSaturday: 9 to 1\nSunday: closed\n");
});
