import {
  type Block,
  blocksOf,
  type Email,
  mapNodes,
  type SaidThere,
  type Section,
  withValueAt,
} from "../email";
import { fits, saysNothing } from "./state";
import { saysWords, translatedIn, type Unit, unitsOfBlock, unitsOfEnvelope } from "./units";

/** A node with something else said at a unit. */
function saidAt<T extends object>(node: T, { kind, path }: Unit, value: SaidThere): T {
  if (kind !== "picture") return withValueAt(node, path, value);
  const { src, natural } = value as { src: string; natural?: object };
  return withValueAt(withValueAt(node, path, src), path.replace(/src$/, "natural"), natural);
}

/** Whether a translation says something that can stand there. */
const counts = ({ kind }: Unit, value: SaidThere | undefined): value is SaidThere =>
  value !== undefined && fits(kind, value) && !saysNothing(value);

const known = new WeakMap<Block, Map<string, Block>>();

/** A block as it is in a language; the very same each time it is asked. */
export function translatedBlock(block: Block, language: string): Block {
  const there = block.translations?.[language];
  if (!there && !block.translations && !block.ownText) return block;
  let languages = known.get(block);
  if (!languages) {
    languages = new Map();
    known.set(block, languages);
  }
  let made = languages.get(language);
  if (!made) {
    // Words of its own for the text part are in the design's language: in others it follows from what they say.
    const { translations: _, ownText: __, ...own } = block;
    made = own as Block;
    for (const unit of there ? unitsOfBlock(block) : []) {
      const value = translatedIn(block, unit, language)?.value;
      if (counts(unit, value)) made = saidAt(made, unit, value);
    }
    languages.set(language, made);
  }
  return made;
}

/** A section as it is in a language. */
const translatedSection = (section: Section, language: string): Section =>
  mapNodes("section", section, (node, kind) =>
    kind === "block" ? translatedBlock(node as Block, language) : node,
  );

/**
 * An email as it is in a language: what was not translated says what the design does. In its own language, or one it
 * is not there in, it is the email itself.
 */
export function translated(email: Email, language: string): Email {
  if (language === email.language || !email.translations?.[language]) return email;
  const { translations: _, ...own } = email;
  let { envelope } = own;
  for (const unit of unitsOfEnvelope(email)) {
    const value = translatedIn(email, unit, language)?.value;
    if (counts(unit, value)) envelope = saidAt(envelope, unit, value);
  }
  const sections = own.sections.map((section) => translatedSection(section, language));
  return { ...own, language, envelope, sections };
}

/**
 * The words of a design that say in another language what they do in its own, by block and path: those that were not
 * translated.
 */
export function untranslated(email: Email, language: string): ReadonlyMap<string, ReadonlySet<string>> {
  const found = new Map<string, ReadonlySet<string>>();
  for (const block of blocksOf(email)) {
    const paths = unitsOfBlock(block).flatMap((unit) => {
      const there = counts(unit, translatedIn(block, unit, language)?.value);
      return saysWords(unit.kind, unit.source) && !there ? [unit.path] : [];
    });
    if (paths.length > 0) found.set(block.id, new Set(paths));
  }
  return found;
}
