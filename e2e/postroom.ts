import { type ParsedMail, simpleParser } from "mailparser";
import type { Program } from "./program";

export interface Listed {
  id: string;
  to: string;
  subject: string;
  /** Begins with the dispatch it is of. */
  messageId: string;
}

/** The messages the postroom lists for some words of the address or subject, all of them. */
export async function mailboxOf(program: Program, words: string): Promise<Listed[]> {
  const all: Listed[] = [];
  for (;;) {
    const response = await fetch(
      `${program.address}/postroom/list?q=${encodeURIComponent(words)}&from=${all.length}`,
    );
    const { total, messages } = (await response.json()) as { total: number; messages: Listed[] };
    all.push(...messages);
    if (messages.length === 0 || all.length >= total) return all;
  }
}

/** A message as its `.eml`, read by a mail parser. */
export async function download(program: Program, { id }: { id: string }): Promise<ParsedMail> {
  const response = await fetch(`${program.address}/postroom/${id}/source/${id}.eml`);
  return simpleParser(Buffer.from(await response.arrayBuffer()), {
    skipImageLinks: true,
    skipHtmlToText: true,
    skipTextToHtml: true,
  });
}

/** Places where something was not filled in. */
export function unfilled(mail: ParsedMail): string[] {
  const words = [
    mail.subject ?? "",
    mail.text ?? "",
    (mail.html || "").replace(/<style>.*?<\/style>/s, ""),
  ].join("\n");
  return words.match(/\{\{|\}\}|‹\w+›|undefined|\bnull\b|\(nothing\)|data-node|reader-value/g) ?? [];
}
