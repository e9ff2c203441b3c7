import { strToU8, zipSync } from "fflate";
import { contactName } from "~/core/audience";
import { type NamedKind, namedKey, namesIn } from "~/core/compose";
import { type Email, SCHEMA_VERSION } from "~/core/email";
import { domainOf, MessageFactory } from "~/core/mime";
import { previewAddresses, readerOf } from "~/core/personal";
import { unescapeHtml } from "~/core/program";
import { ruleWords } from "../audience/words";
import { fetchFor } from "../fetching";
import { pictureFile } from "../pictures/files";
import { kindOf } from "../pictures/kinds";
import { GREATEST_PICTURE } from "../pictures/taking";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { sources } from "../sources/sources";
import { clockFile, drawingFile, glyphFile, playFile } from "../workspace/drawn";
import { brandOf } from "../workspace/settings";
import { campaign } from "./campaigns";
import { boundEmail, campaignAs, fixedSender, sharedHeaders } from "./rendering";
import { tagFacts } from "./tag-facts";

export const EXPORTS = ["html", "txt", "eml", "zip", "json"] as const;
export type ExportFormat = (typeof EXPORTS)[number];

export interface ExportFile {
  name: string;
  type: string;
  data: Uint8Array | string;
}

/** What a file of a campaign is called, without its ending. */
export const fileName = (name: string): string => name.replace(/[^\p{L}\p{N} _-]/gu, "").trim() || "campaign";

/**
 * A campaign as a file: as the chosen reader gets it, or, as JSON, the design itself, which can be brought back in.
 * @throws Refusal when the campaign or the reader is gone
 */
export async function exportCampaign(
  septima: Septima,
  id: string,
  format: ExportFormat,
  contactId?: number,
): Promise<ExportFile> {
  const { email, name } = await campaign(septima, id);
  const base = fileName(name);
  if (format === "json") {
    const names = await namesOf(septima, email);
    const data = `${JSON.stringify({ septima: SCHEMA_VERSION, name, names, email }, null, 2)}\n`;
    return { name: `${base}.json`, type: "application/json", data };
  }
  const { message, contact } = await campaignAs(septima, id, contactId);
  switch (format) {
    case "html":
      return { name: `${base}.html`, type: "text/html; charset=utf-8", data: message.html };
    case "txt":
      return { name: `${base}.txt`, type: "text/plain; charset=utf-8", data: message.text };
    case "eml": {
      const brand = await brandOf(septima);
      const domain = domainOf(fixedSender(email.envelope.sender, brand));
      const someone = contact ?? { id: 0, email: "reader@organisation.example", fields: {}, lists: [] };
      const factory = new MessageFactory(
        await boundEmail(septima, email, { campaign: id, readers: [someone.id] }),
        sharedHeaders(email, brand, { campaign: id, sending: "export" }),
        `septima-${septima.newId()}`,
      );
      const shown = contactName(someone);
      const system = previewAddresses(septima.config.readers);
      const data = factory.build(readerOf(someone, email.language, system), {
        to: { name: shown === someone.email ? "" : shown, address: someone.email },
        messageId: `export.${septima.newId()}@${domain}`,
        date: septima.now(),
        unsubscribe: system.unsubscribe,
      });
      return { name: `${base}.eml`, type: "message/rfc822", data };
    }
    case "zip":
      return { name: `${base}.zip`, type: "application/zip", data: await zipped(septima, message) };
  }
}

/** What the things that a design names are called here, so that somebody elsewhere knows what is meant. */
async function namesOf(septima: Septima, email: Email): Promise<Record<string, string>> {
  const { fields, lists, segments } = await ruleWords(septima);
  const { lookups = [], codes = [] } = await tagFacts(septima);
  const called = new Map<string, string>();
  const know = (kind: NamedKind, key: string, label: string) => called.set(namedKey({ kind, key }), label);
  for (const { key, label } of fields) know("field", key, label);
  for (const { id, name } of lists) know("list", id, name);
  for (const { id, name } of segments) know("segment", id, name);
  for (const { key, name } of lookups) know("lookup", key, name);
  for (const { key, name } of codes) know("code", key, name);
  for (const { id, name } of await sources(septima)) know("source", id, name);
  return Object.fromEntries(
    namesIn(email).flatMap((one) => {
      const label = called.get(namedKey(one));
      return label === undefined ? [] : [[namedKey(one), label]];
    }),
  );
}

/** Takes pictures that lie elsewhere, as those of a feed, along with the others; those that cannot be had stay there. */
async function takenAlong(
  septima: Septima,
  html: string,
  files: Record<string, Uint8Array>,
): Promise<string> {
  const addresses = [
    ...new Set([...html.matchAll(/<img src="(https?:[^"]+)"/g)].map(([, address]) => address)),
  ];
  const names = new Map<string, string>();
  await Promise.all(
    addresses.map(async (address, index) => {
      try {
        const data = await fetchFor(septima, unescapeHtml(address), { bytes: GREATEST_PICTURE });
        const found = kindOf(data.subarray(0, 4096));
        if ("other" in found) return;
        const name = `pictures/web-${index + 1}.${found.kind}`;
        files[name] = data;
        names.set(address, name);
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
      }
    }),
  );
  return html.replace(/<img src="(https?:[^"]+)"/g, (whole, address) => {
    const name = names.get(address);
    return name === undefined ? whole : `<img src="${name}"`;
  });
}

/** The HTML with its pictures beside it, and the text part. */
async function zipped(septima: Septima, message: { html: string; text: string }): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = {};
  const { origin } = septima.config;
  const pattern = new RegExp(
    `${origin.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}/(pictures|drawings|glyphs|clock)/([\\w.-]+)(/play|/\\d+)?`,
    "g",
  );
  const names = new Map<string, string>();
  for (const [address, folder, file, how] of message.html.matchAll(pattern)) {
    if (names.has(address)) continue;
    const play = how === "/play";
    const width = how === undefined || play ? undefined : Number(how.slice(1));
    const name = `pictures/${play ? "play-" : width ? `${width}-` : ""}${file}`;
    try {
      files[name] =
        folder === "glyphs"
          ? await glyphFile(file)
          : folder === "drawings"
            ? await drawingFile(file)
            : folder === "clock"
              ? await clockFile(file, septima.now())
              : (await (play ? playFile(septima, file) : pictureFile(septima, file, width))).data;
      names.set(address, name);
    } catch (error) {
      // A picture that is gone keeps its address.
      if (!(error instanceof Refusal)) throw error;
    }
  }
  const html = message.html.replace(pattern, (address) => names.get(address) ?? address);
  files["index.html"] = strToU8(await takenAlong(septima, html, files));
  files["text.txt"] = strToU8(message.text);
  return zipSync(files, { level: 6 });
}
