/** Writes the golden message anew, after a change that was meant: `npm run golden`, then read the difference. */
import { writeFileSync } from "node:fs";
import path from "node:path";
import { MessageFactory } from "~/core/mime";
import { bind, readerOf } from "~/core/personal";
import { compile } from "~/core/render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "~/core/render/sample";

const bound = bind(compile(sampleEmail(24), SAMPLE_OPTIONS), sampleWorld("2026-11-23"));
const factory = new MessageFactory(
  bound,
  {
    from: "letters@tansyrow.example",
    listId: { name: "Tansy Row", domain: "letters.tansyrow.example" },
    feedbackId: "c1:d1:septima",
  },
  "septima-d1",
);
const unsubscribe = "https://septima.example/unsubscribe/abc.def";
const contact = { ...sampleContact(1, { first_name: "Ines", zone: "mild" }), email: "ines@mail.example" };
const bytes = factory.build(readerOf(contact, "en", { unsubscribe, answer: "", referral: "", letter: "" }), {
  to: { name: "Ines", address: "ines@mail.example" },
  messageId: "d1.1@tansyrow.example",
  date: Date.UTC(2026, 10, 23, 12),
  unsubscribe,
});
writeFileSync(path.join(import.meta.dirname, "../core/mime/golden/letter.eml"), bytes);
