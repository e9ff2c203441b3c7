/** Letters for the tests of checks: one in which nothing is wrong, and ways to look at another. */
import type { Contact } from "../audience";
import { type BlockTypeName, createBlock, type TypedBlock } from "../blocks";
import { type Block, type Email, type Inline, paragraphOf, SCHEMA_VERSION } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile } from "../render";
import { SAMPLE_BRAND, SAMPLE_OPTIONS, sampleContact, sampleWorld } from "../render/sample";
import { apply } from "../steps";
import { isBare } from "./bare";
import { type Check, seen } from "./check";
import { type Circumstances, type Finding, recipients } from "./finding";
import { designFindings, editionFindings } from "./run";

export const TODAY = "2026-11-25";
export const READERS = [
  sampleContact(1, { first_name: "Ines", zone: "cool" }),
  sampleContact(2, { zone: "mild" }),
];
export const words = (text: string): Inline[] => (text === "" ? [] : [{ type: "text", text }]);
export const nameTag = (fallback = ""): Inline => ({
  type: "mergeTag",
  attrs: { field: "first_name", fallback, format: "asIs" },
});
export const linkTo = (href: string, text: string): Inline => ({
  type: "text",
  text,
  marks: [{ type: "link", attrs: { href } }],
});

/** A block of a type as it comes from the shelf, with something of its own. */
export const block = <Name extends BlockTypeName>(
  type: Name,
  id: string,
  more: Partial<TypedBlock<Name>> = {},
) => ({ ...createBlock(type, id), ...more }) as Block;
/** A paragraph of words and tags. */
export const text = (id: string, ...said: (string | Inline)[]) =>
  block("text", id, { content: { type: "doc", content: [paragraphOf(...said)] } });

/** A letter of these blocks and a footer. */
export function letter(blocks: readonly Block[], envelope: Partial<Email["envelope"]> = {}): Email {
  return {
    schema: SCHEMA_VERSION,
    language: "en",
    theme: SAMPLE_OPTIONS.theme.id,
    envelope: {
      subject: words("Hold your beans until the frost is over"),
      preheader: words("What to sow indoors now, and when to plant it out in your garden"),
      sender: { name: words("Tansy Row"), address: "letters@tansyrow.example" },
      ...envelope,
    },
    sections: [
      { id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: [...blocks] }] }] },
      {
        id: "sf",
        rows: [{ id: "rf", columns: [{ id: "cf", width: 100, blocks: [block("footer", "foot")] }] }],
      },
    ],
  };
}

/** A letter in which nothing is wrong. */
export const plain = () =>
  letter([
    block("heading", "h", { content: words("Hold your beans") }),
    text("t", "Nights still touch freezing, so sow indoors now and wait with the rest."),
    block("button", "b", { content: words("See what to sow"), href: "https://tansyrow.example/sow" }),
  ]);

const world = sampleWorld(TODAY);

/** What is known around a letter; two readers get it, one without a name. */
export const around = (more: Partial<Circumstances> = {}): Circumstances => ({
  readers: recipients(READERS, world.audience),
  brand: SAMPLE_BRAND,
  theme: SAMPLE_OPTIONS.theme,
  today: TODAY,
  ...more,
});

/** What one check finds in a letter, in its design and in the edition of a reader. */
export function foundBy(
  check: Check,
  email: Email,
  more: Partial<Circumstances> = {},
  reader: Contact = READERS[0],
): Finding[] {
  const known = around(more);
  const options = { ...SAMPLE_OPTIONS, theme: known.theme, brand: known.brand, today: TODAY };
  const as = readerOf(reader, email.language, previewAddresses("https://s.example"));
  const messageBy = (places: boolean) => personalise(bind(compile(email, { ...options, places }), world), as);
  const it = seen({
    message: messageBy(true),
    language: email.language,
    bytes: new TextEncoder().encode(messageBy(false).html).length,
    bare: isBare(email, reader, world.audience),
  });
  return [...designFindings(email, known, [check]), ...editionFindings(it, { ...known, email }, [check])];
}

/** A letter after the mend of a finding. */
export function mended(email: Email, finding: Finding): Email {
  if (!finding.mend) throw new Error(`“${finding.text}” has no mend`);
  return apply(email, finding.mend.steps);
}
