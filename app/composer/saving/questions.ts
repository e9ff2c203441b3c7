import { blockTitle, blockType } from "~/core/blocks";
import { type Command, commands, placesFor } from "~/core/compose";
import {
  atStart,
  type Block,
  childIds,
  type Email,
  ENVELOPE_LINES,
  findNode,
  inlineText,
  isInline,
  isRichDoc,
  type Located,
  linesOf,
  type Words,
} from "~/core/email";
import type { Clash, Spot } from "~/core/steps";
import type { Question } from "../state/saving";

/** Questions about contradictions, in place of earlier ones about the same. */
export function asked(before: readonly Question[], clashes: readonly Clash[], mine: Email): Question[] {
  const fresh = clashes.map((clash): Question => {
    const found = clash.id === null ? undefined : findNode(mine, clash.id);
    return { ...clash, key: `${clash.id ?? ""} ${clash.reason} ${clash.path}`, node: found?.node };
  });
  return [...before.filter((one) => !fresh.some(({ key }) => key === one.key)), ...fresh];
}

/** Settles a question by hand: what I did is done after all. */
export function takeMine(question: Question, newId: () => string): Command {
  return (edit) => {
    const { id, reason, path, mine, node } = question;
    if (reason === "gone") return putBack(question, newId)(edit);
    if (reason === "kept") {
      if (id && edit.find(id)) commands.remove(id)(edit);
      return;
    }
    if (reason === "moved") {
      const found = id ? edit.find(id) : undefined;
      const { parent, after } = mine as Spot;
      if (!found || found.kind === "column" || (parent !== null && !edit.find(parent))) return;
      const at = after === null ? 0 : childIds(edit.email, parent).indexOf(after) + 1;
      commands.move(found.node.id, { parent, index: at, wants: found.kind }, newId)(edit);
      return;
    }
    if (id === null) {
      const [key, inner] = path.split("/");
      if (key === "envelope" && inner) commands.setEnvelope({ [inner]: mine })(edit);
      else commands.setWhole({ [key]: mine })(edit);
    } else if (path === "") {
      const { id: _, type: __, ...own } = (node ?? mine) as Record<string, unknown>;
      if (edit.find(id)) commands.set(id, own)(edit);
    } else if (edit.find(id)) commands.setAt(id, path, mine)(edit);
  };
}

/** Puts a part back that is gone, as it was here: before the last section. */
function putBack({ id, node }: Question, newId: () => string): Command {
  return (edit) => {
    if (!node || !id || edit.find(id)) return;
    if (!("type" in (node as object))) return;
    const places = placesFor(edit.email, { kind: "block" });
    const place =
      places.findLast((one) => one.wants === "row" && one.parent !== edit.email.sections.at(-1)?.id) ??
      places.at(-1);
    if (place) commands.insert(node as Block, "block", place, newId)(edit);
  };
}

/** What a question is about, in words. */
export function aboutWords(question: Question, email: Email): string {
  const { id, path, node } = question;
  if (id === null) {
    const [key, ...inner] = path.split("/");
    if (key !== "envelope") return `The email’s ${key}`;
    const line = ENVELOPE_LINES.find((one) => one.path === inner.join("/"));
    if (line) return atStart(line);
    return inner[0] === "sender" ? "The sender" : "The envelope";
  }
  const found = findNode(email, id)?.node ?? (node as Located["node"] | undefined);
  if (found && "type" in found) {
    const label = blockType(found.type)?.label ?? "Block";
    return `${label} “${blockTitle(found as Block)}”`;
  }
  return "A part of the layout";
}

/** A value as somebody reads it: its words, or the value itself. */
export function valueWords(value: unknown): string {
  if (value === undefined || value === null) return "nothing";
  if (isRichDoc(value) || (Array.isArray(value) && value.every(isInline)))
    return (
      linesOf(value as Words)
        .map(inlineText)
        .join(" ¶ ") || "no words"
    );
  if (typeof value === "boolean") return value ? "on" : "off";
  if (typeof value !== "object") return String(value);
  if ("type" in value && "id" in value) return blockTitle(value as Block);
  return JSON.stringify(value).slice(0, 120);
}
