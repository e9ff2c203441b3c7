import { type Rule, RuleError } from "../audience";
import {
  type BlockTypeName,
  blockTitle,
  blockType,
  createBlock,
  textsOf,
  unreadyIn,
  wordsOf,
} from "../blocks";
import { LAYOUTS } from "../compose";
import {
  type Block,
  blocksOf,
  type Email,
  inlineText,
  type Located,
  linesOf,
  pathTo,
  type TagFacts,
  walk,
} from "../email";
import { compile, enlargedPictures } from "../render";
import { languageName, versionsOf } from "../translation";
import { codesShort } from "./codes";
import type { Circumstances, Finding } from "./finding";
import { listsShort } from "./lists";
import { casesIn, fieldsOfTag, saidIn, tagsOf } from "./said";
import { placeholders, unreachable, unsigned } from "./sender";
import { failingSources } from "./sources";
import {
  gone,
  goneData,
  goneTargets,
  lookupCases,
  lookupRules,
  lookupsIn,
  senders,
  typedMistakes,
  withoutFallback,
  withoutProgramme,
} from "./tags";
import { byLanguage, translations } from "./translations";

/** The fields that a design writes, and the rules of its parts with those around them, of its either/ors and of its lookups: what `unfinished` asks. */
export function asksAbout(email: Email, tags: TagFacts = {}): { fields: string[]; rules: Rule[] } {
  const versions = versionsOf(email);
  const said = versions.map((version) => version.email);
  const lines = said.flatMap(saidIn).map(({ line }) => line);
  const fields = said.flatMap(tagsOf).flatMap(({ tag }) => fieldsOfTag(tag));
  const parts = [...walk(email)].flatMap((it) => wholeRule(email, it) ?? []);
  const cases = lines.flatMap(casesIn).map(({ when }) => when);
  const lookups = said.flatMap((one) => lookupsIn(one, tags)).flatMap(lookupRules);
  const languages = versions.flatMap(({ when }) => when ?? []);
  return { fields: [...new Set(fields)], rules: [...parts, ...cases, ...lookups, ...languages] };
}

/** The rule of a part together with those of what it stands in; undefined when it has none of its own. */
function wholeRule(email: Email, it: Located): Rule | undefined {
  if (it.kind === "column" || !it.node.show) return undefined;
  const path = pathTo(email, it.node.id);
  return {
    kind: "all",
    of: path.flatMap((one) => (one.kind !== "column" && one.node.show ? [one.node.show] : [])),
  };
}

/** What is unfinished in what a design says in one language. */
const inWords = (email: Email, circumstances: Circumstances): Finding[] => [
  ...typedMistakes(email),
  ...withoutFallback(email, circumstances),
  ...gone(email, circumstances),
  ...goneTargets(email, circumstances),
  ...lookupCases(email, circumstances),
  ...eitherOrs(email, circumstances),
];

/** The same fault in another language: what is quoted and counted differs. */
const kindOf = ({ text, block }: Finding) => `${block} ${text.replaceAll(/“[^”]*”|[\d,]+/g, "")}`;

/**
 * What is unfinished in the words of all languages. A fault that a design has in its own language and in others is said
 * once, for all readers; one that only a translation has is said with its language.
 */
function inAllLanguages(
  email: Email,
  circumstances: Circumstances,
  { own, others }: ReturnType<typeof byLanguage>,
): Finding[] {
  if (others.length === 0) return inWords(email, circumstances);
  const here = inWords(email, { ...circumstances, readers: own });
  const everywhere = inWords(email, circumstances);
  const known = new Set(here.map(kindOf));
  const spread = new Set<string>();
  const elsewhere = others.flatMap(({ language, email: version, readers }) =>
    inWords(version, { ...circumstances, readers }).flatMap((one) => {
      if (!known.has(kindOf(one))) return [{ ...one, text: `In ${languageName(language)}: ${one.text}` }];
      spread.add(kindOf(one));
      return [];
    }),
  );
  const uncounted = ({ text, block }: Finding) => `${block} ${text.replaceAll(/[\d,]+/g, "")}`;
  const all = (one: Finding) => everywhere.find((other) => uncounted(other) === uncounted(one)) ?? one;
  return [...here.map((one) => (spread.has(kindOf(one)) ? all(one) : one)), ...elsewhere];
}

/** What is unfinished in a design, what stops it first. */
export function unfinished(email: Email, circumstances: Circumstances): Finding[] {
  const languages = byLanguage(email, circumstances.readers);
  const found = [
    ...envelope(email),
    ...placeholders(email, circumstances),
    ...unreachable(circumstances),
    ...unsigned(circumstances),
    ...footer(email),
    ...blocksOf(email).flatMap(unready),
    ...(circumstances.readers.count === 0
      ? [{ weight: "stops" as const, text: "Nobody would get it. Choose lists or segments under Readers." }]
      : []),
    ...(circumstances.readers.chosenByGone
      ? [
          {
            weight: "stops" as const,
            text: "The readers are chosen by a list that was deleted: nobody is on it any more. Choose again under Readers.",
          },
        ]
      : []),
    ...sampleWords(email),
    ...inAllLanguages(email, circumstances, languages),
    ...senders(email, circumstances),
    ...codesShort(email, circumstances),
    ...listsShort(email, circumstances),
    ...failingSources(email, circumstances),
    ...withoutProgramme(email, circumstances),
    ...goneData(email, circumstances),
    ...forNobody(email, circumstances),
    ...translations(email, languages.others),
    ...themeGone(email, circumstances),
    ...styleBlock(email, circumstances),
    ...enlarged(email, circumstances),
  ];
  const once = found.filter(
    (one, at) => found.findIndex((other) => other.text === one.text && other.block === one.block) === at,
  );
  return [
    ...once.filter(({ weight }) => weight === "stops"),
    ...once.filter(({ weight }) => weight === "look"),
  ];
}

/** Large webmail drops a style block of more than 16 KB whole: then phones and dark mode get nothing of their own. */
const STYLE_BYTES = { look: 12 * 1024, stops: 16 * 1024 };

function styleBlock(email: Email, { brand, theme }: Circumstances): Finding[] {
  const { styleBytes } = compile(email, { theme, brand, origin: "" });
  if (styleBytes <= STYLE_BYTES.look) return [];
  const weight = styleBytes > STYLE_BYTES.stops ? "stops" : "look";
  const text = `What is different on phones and in dark takes ${Math.round(styleBytes / 1024)} KB; mail programs drop it from 16 KB on. Use fewer different values on phones, and fewer colours.`;
  return [{ weight, text }];
}

function themeGone(email: Email, { theme }: Circumstances): Finding[] {
  if (theme.id === email.theme) return [];
  const text = `The theme of this email is not here: it goes out in “${theme.name}”. Choose another in the composer.`;
  return [{ weight: "look", text }];
}

function enlarged(email: Email, { brand, theme }: Circumstances): Finding[] {
  return enlargedPictures(email, { theme, brand, origin: "" }).map(({ block, alt, own, shown }) => ({
    weight: "look",
    text: `${alt === "" ? "A picture" : `The picture “${alt}”`} is ${own} px wide and shown at ${shown}: it looks blurred. Choose a larger one, or show it smaller.`,
    block,
  }));
}

function envelope({ envelope: { subject, sender } }: Email): Finding[] {
  const found: Finding[] = [];
  if (inlineText(subject).trim() === "")
    found.push({ weight: "stops", text: "There is no subject. Write one above the email." });
  if (sender.address === "")
    found.push({ weight: "stops", text: "There is no sender’s address. Choose one above the email." });
  return found;
}

/** Everyone must be able to unsubscribe: the footer may not be hidden, nor anything it stands in. */
function footer(email: Email): Finding[] {
  const block = blocksOf(email).find(({ type }) => blockType(type)?.fixed);
  if (!block) return [{ weight: "stops", text: "The footer with the unsubscribe link is missing." }];
  return pathTo(email, block.id).flatMap((it): Finding[] => {
    if (it.kind === "column" || (!it.node.show && !it.node.hideOn)) return [];
    const what = it.kind === "block" ? "The footer" : `The ${it.kind} around the footer`;
    const how = it.node.show ? "has a rule for who gets it" : `is hidden on ${it.node.hideOn}s`;
    return [
      {
        weight: "stops",
        text: `${what} ${how}. Everyone must get the unsubscribe link, everywhere.`,
        block: block.id,
      },
    ];
  });
}

function unready(block: Block): Finding[] {
  return unreadyIn(block).map((text) => ({
    // A block that cannot be read does not go out, which somebody should know.
    weight: block.type === "unreadable" ? "look" : "stops",
    text,
    block: block.id,
  }));
}

/** What a block says that somebody was to write, by its places: words, and the texts that readers see. */
const toBeWritten = (block: Block): { path: string; said: string }[] =>
  [
    ...wordsOf(block).map(({ path, words, stays }) => ({
      path,
      stays,
      said: linesOf(words).map(inlineText).join("\n"),
    })),
    ...textsOf(block).map(({ path, text, stays }) => ({ path, stays, said: text })),
  ].filter(({ said, stays }) => said !== "" && !stays);

let layoutWords: Set<string> | null = null;
/** The words that layouts begin with. */
function samplesOfLayouts(): Set<string> {
  layoutWords ??= new Set(
    LAYOUTS.flatMap((layout) => {
      let next = 0;
      const sections = layout.sections(() => `sample-${next++}`);
      const email = { sections } as Email;
      return blocksOf(email).flatMap((block) => toBeWritten(block).map(({ said }) => said));
    }),
  );
  return layoutWords;
}

function sampleWords(email: Email): Finding[] {
  return blocksOf(email).flatMap((block): Finding[] => {
    const type = blockType(block.type);
    if (!type || block.type === "unreadable") return [];
    const fresh = createBlock(block.type as BlockTypeName, block.id) as Block;
    const came = new Map(toBeWritten(fresh).map(({ path, said }) => [path, said]));
    const left = toBeWritten(block).find(
      ({ path, said }) => came.get(path) === said || samplesOfLayouts().has(said),
    );
    if (!left) return [];
    const said = left.said.replaceAll("\n", " ");
    return [
      {
        weight: "look",
        text: `${type.label} “${said.length > 50 ? `${said.slice(0, 48)}…` : said}” still says what it came with. Write it, or delete the block.`,
        block: block.id,
      },
    ];
  });
}

/** Cases of either/ors that nobody gets, or whose rules cannot be answered or name a list that was deleted. */
function eitherOrs(email: Email, { readers }: Circumstances): Finding[] {
  if (readers.count === 0) return [];
  return saidIn(email).flatMap(({ line, where, block }) =>
    casesIn(line).flatMap(({ when, words }): Finding[] => {
      const said = inlineText(words);
      const one = `the case “${said.length > 50 ? `${said.slice(0, 48)}…` : said}”`;
      const finding = (weight: Finding["weight"], text: string): Finding => ({
        weight,
        text: `${where}: ${text}`,
        ...(block !== undefined && { block }),
      });
      try {
        if (readers.namesGone(when))
          return [
            finding(
              "stops",
              `the rule of ${one} names a list that was deleted: nobody is on it any more. Change the rule, or bring the list back.`,
            ),
          ];
        if (readers.anybody(when)) return [];
        return [finding("look", `${one} is for nobody: none of the readers meets its rule.`)];
      } catch (error) {
        if (!(error instanceof RuleError)) throw error;
        return [finding("stops", `the rule of ${one} cannot be answered: ${error.message}`)];
      }
    }),
  );
}

const nameOf = (it: Located) =>
  it.kind === "block"
    ? `${blockType(it.node.type)?.label ?? "Block"} “${blockTitle(it.node)}”`
    : `A ${it.kind}`;

/**
 * Parts whose rules, with those around them, none of the readers meet; and those whose rules cannot be answered, or name
 * a list that was deleted, so that whoever was on it, or was not, is not told apart any more.
 */
function forNobody(email: Email, { readers }: Circumstances): Finding[] {
  if (readers.count === 0) return [];
  const reported = new Set<string>();
  const found: Finding[] = [];
  for (const it of walk(email)) {
    const rule = wholeRule(email, it);
    if (!rule || pathTo(email, it.node.id).some(({ node }) => reported.has(node.id))) continue;
    const block = it.kind === "block" ? { block: it.node.id } : {};
    try {
      if (readers.namesGone(rule)) {
        found.push({
          weight: "stops",
          text: `The rule of ${nameOf(it).replace(/^A /, "a ")} names a list that was deleted: nobody is on it any more. Change the rule, or bring the list back.`,
          ...block,
        });
        reported.add(it.node.id);
        continue;
      }
      if (readers.anybody(rule)) continue;
    } catch (error) {
      if (!(error instanceof RuleError)) throw error;
      found.push({
        weight: "stops",
        text: `A rule for who gets something cannot be answered: ${error.message}`,
      });
      reported.add(it.node.id);
      continue;
    }
    reported.add(it.node.id);
    found.push({
      weight: "look",
      text: `${nameOf(it)} is for nobody: none of the readers meets its rule. Change the rule, or delete it.`,
      ...block,
    });
  }
  return found;
}
