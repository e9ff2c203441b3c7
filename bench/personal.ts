/** Personalising the demo's draft in its three languages, against precompiled templates that do the same. */
import Handlebars from "handlebars";
import { factsBehind, predicate, type Rule, withFacts } from "~/core/audience";
import { resolveTheme } from "~/core/email";
import {
  type Bound,
  ByteSink,
  bind,
  bytePart,
  previewAddresses,
  readerOf,
  runBytes,
  tagValue,
} from "~/core/personal";
import type { Code } from "~/core/program";
import { compile } from "~/core/render";
import { SAMPLE_BRAND } from "~/core/render/sample";
import { demoTables } from "~/start/demo/branches";
import { demoContacts } from "~/start/demo/contacts";
import { draftLetter } from "~/start/demo/draft";
import { seeded } from "~/start/demo/random";
import { demoLookups } from "~/start/demo/wording";

const TODAY = "2026-11-25";
const utf8 = new TextEncoder();

/** A part as a template of another make: each `unless` with the jump at its end is an if, or an if and an else. */
export function asTemplate(code: Code, from = 0, to = code.length): string {
  let template = "";
  for (let at = from; at < to; at++) {
    const op = code[at];
    if (op.op === "static") template += op.text.replace(/\{\{/g, "\\{{");
    else if (op.op === "value") template += `{{v ${op.slot}}}`;
    else if (op.op === "unless") {
      const last = code[op.to - 1];
      const or = op.to - 1 > at && last.op === "jump" && last.to >= op.to ? last.to : null;
      const body = asTemplate(code, at + 1, or === null ? op.to : op.to - 1);
      const otherwise = or === null ? "" : `{{else}}${asTemplate(code, op.to, or)}`;
      template += `{{#if (r ${op.rule})}}${body}${otherwise}{{/if}}`;
      at = (or ?? op.to) - 1;
    } else throw new Error("a jump that belongs to no rule");
  }
  return template;
}

/** What such a template asks of a reader, in its helpers: the same rules and the same values, when they are needed. */
const helpersOf = (bound: Bound, rules: Bound["rules"]) => ({
  r: (rule: number, { data }: Handlebars.HelperOptions) => rules[rule](data.root.contact),
  v: (slot: number, { data }: Handlebars.HelperOptions) =>
    tagValue(bound.slots[slot], data.root) ?? bound.slots[slot].fallback,
});

/** Seconds for each call. */
function time(calls: number, work: (index: number) => unknown): number {
  const start = performance.now();
  for (let index = 0; index < calls; index++) work(index);
  return (performance.now() - start) / 1000 / calls;
}
const median = (all: number[]) => all.sort((a, b) => a - b)[Math.floor(all.length / 2)];

export function personalLines(): [what: string, result: string, goal: string][] {
  let next = 0;
  const email = draftLetter({
    newId: () => `id${next++}`,
    brand: SAMPLE_BRAND,
    picture: (name) => ({ path: `/pictures/${name}.png`, width: 1200, height: 600 }),
    feed: "journal",
    shop: "shop",
  });
  const segments = new Map<string, Rule>([["members", { kind: "field", field: "member", op: "yes" }]]);
  const audience = { today: TODAY, segments };
  const program = compile(email, {
    theme: resolveTheme(email.theme, []),
    brand: SAMPLE_BRAND,
    origin: "https://septima.example",
    lookups: demoLookups(new Map()),
    codes: [
      { key: "seed_tenth", name: "A tenth off seed", example: "EXAMPLE" },
      { key: "bulb_gift", name: "A bag of bulbs", example: "EXAMPLE" },
    ],
  });
  const bound = bind(program, { audience });
  const records = new Map(
    demoTables({}).flatMap(({ table, records: all }) =>
      table.id === "branches" ? [["branch", factsBehind("branch", all)] as const] : [],
    ),
  );
  const random = seeded(3);
  const languages = ["en", "fr", "de"];
  const readers = demoContacts(600, TODAY).map(({ email: address, fields, lists }, id) =>
    readerOf(
      {
        id: id + 1,
        email: address,
        fields: { ...withFacts(fields, records), language: random.pick(languages) },
        lists,
      },
      "en",
      previewAddresses("https://septima.example"),
    ),
  );
  const helpers = helpersOf(
    bound,
    bound.asked.map((rule) => predicate(rule, audience)),
  );
  const handlebars = Handlebars.compile(asTemplate(bound.html), { knownHelpers: { r: true, v: true } });
  const part = bytePart(bound.html, (text) => utf8.encode(text));
  const sink = new ByteSink();
  let bytes = 0;
  const ours = (index: number) => {
    runBytes(part, bound, readers[index % readers.length], sink);
    bytes = sink.lend().length;
  };
  const theirs = (index: number) =>
    utf8.encode(handlebars(readers[index % readers.length], { helpers })).length;
  // In turns, so that both meet the same machine.
  const rounds = Array.from({ length: 12 }, () => ({
    ours: time(1500, ours),
    theirs: time(300, theirs),
  })).slice(1);
  const [own, other] = [median(rounds.map((it) => it.ours)), median(rounds.map((it) => it.theirs))];
  const ratio = median(rounds.map((it) => it.theirs / it.ours));
  const perSecond = (seconds: number) => `${Math.round(1 / seconds).toLocaleString("en")}/s`;
  return [
    [
      `personalise the demo's draft in three languages (${Math.round(bytes / 1024)} KB)`,
      `${perSecond(own)}, ${ratio.toFixed(1)} × precompiled Handlebars (${perSecond(other)})`,
      "8 ×",
    ],
  ];
}
