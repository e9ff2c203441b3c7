/** Short mails to one person: a few lines, and a button where there is something to press. */
import { createBlock } from "~/core/blocks";
import { type Block, type Email, resolveTheme, richText, SCHEMA_VERSION } from "~/core/email";
import { domainOf, MessageFactory } from "~/core/mime";
import { bind, previewAddresses, readerOf } from "~/core/personal";
import { compile } from "~/core/render";
import { audienceContext } from "../audience/groups";
import type { Septima } from "../septima";
import { brandOf } from "../workspace/settings";
import { sendSigned, signingOf } from "./leaving";

interface Note {
  to: string;
  /** Which kind of mails it is one of, as mail programs sort them (RFC 2919). */
  list: "referrals" | "digests" | "reviews";
  /** The language it is in (BCP 47). */
  language: string;
  /** Makes the message's id, the same for the same mail sent again. */
  id: string;
  subject: string;
  lines: readonly string[];
  button?: { words: string; href: string };
}

/** Sends one. @throws RelayError */
export async function sendNote(
  septima: Septima,
  { to, list, language, id, subject, lines, button }: Note,
): Promise<void> {
  const brand = await brandOf(septima);
  const [sender] = brand.senders;
  const blocks: Block[] = [{ ...createBlock("text", "words"), content: richText(...lines) }];
  if (button)
    blocks.push({
      ...createBlock("button", "press"),
      content: [{ type: "text", text: button.words }],
      href: button.href,
    });
  blocks.push({
    ...createBlock("text", "end"),
    content: richText(`${brand.name}, ${brand.address}`),
    size: 13,
  });
  const email: Email = {
    schema: SCHEMA_VERSION,
    language,
    theme: "plain",
    envelope: {
      subject: [{ type: "text", text: subject }],
      preheader: [],
      sender: { name: [{ type: "text", text: sender.name }], address: sender.address },
    },
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] }],
  };
  const { readers: origin } = septima.config;
  const program = compile(email, { theme: resolveTheme("plain", []), brand, origin });
  const bound = bind(program, { audience: await audienceContext(septima) });
  const domain = domainOf(sender.address);
  const factory = new MessageFactory(
    bound,
    { from: sender.address, listId: { name: brand.name, domain: `${list}.${domain}` } },
    `septima-${id.replaceAll(/[^A-Za-z0-9-]/g, "-")}`,
  );
  const nobody = { id: 0, email: to, fields: {}, lists: [] };
  const reader = readerOf(nobody, language, previewAddresses(origin));
  const at = septima.now();
  const message = factory.build(reader, {
    to: { name: "", address: to },
    messageId: `${id}@${domain}`,
    date: at,
  });
  await sendSigned(septima, signingOf(factory), { from: sender.address, to }, message, at);
}
