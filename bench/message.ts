/** Compiling, personalising, editions, octets and handing over, each against a named reference. */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import Handlebars from "handlebars";
import MailComposer from "nodemailer/lib/mail-composer";
import type { Contact, Rule } from "~/core/audience";
import { MessageFactory } from "~/core/mime";
import {
  ByteSink,
  bind,
  bytePart,
  editions,
  personalise,
  previewAddresses,
  readerOf,
  runBytes,
} from "~/core/personal";
import { compile } from "~/core/render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail } from "~/core/render/sample";
import { openRelay } from "~/server/mail/relay";
import { bundled } from "~/server/test-bundle";
import { openPostroomApart } from "~/standins/postroom/apart";
import type { Line } from "./line";

const world = {
  audience: { today: "2026-11-23", segments: new Map<string, Rule>() },
};
const utf8 = new TextEncoder();

/** Seconds per call, the median of several rounds. */
async function time(rounds: number, calls: number, work: (index: number) => unknown): Promise<number> {
  const seconds: number[] = [];
  for (let round = 0; round <= rounds; round++) {
    const start = performance.now();
    for (let index = 0; index < calls; index++) {
      const result = work(index);
      if (result instanceof Promise) await result;
    }
    if (round > 0) seconds.push((performance.now() - start) / 1000 / calls);
  }
  return seconds.sort((a, b) => a - b)[Math.floor(seconds.length / 2)];
}

const ms = (seconds: number) => `${(seconds * 1000).toFixed(seconds < 0.01 ? 2 : 0)} ms`;
const perSecond = (seconds: number) => `${Math.round(1 / seconds).toLocaleString("en")}/s`;

function people(count: number): Contact[] {
  return Array.from({ length: count }, (_, id) =>
    sampleContact(id + 1, {
      first_name: id % 11 === 0 ? "" : `Name${id % 977}`,
      branch: ["Alderwick", "Marl Bay", "Stonecross", undefined][id % 4],
      zone: ["cool", "mild", "warm"][id % 3],
      member: id % 5 === 0,
      orders: id % 23,
      joined: `20${10 + (id % 16)}-0${1 + (id % 9)}-15`,
      interests: ["vegetables", "flowers", "fruit"].filter((_interest, at) => (id >> at) % 2 === 0),
    }),
  );
}

/** Twenty rules as they stand in designs. */
export const TWENTY_RULES: Rule[] = Array.from({ length: 20 }, (_, index): Rule => {
  switch (index % 4) {
    case 0:
      return { kind: "field", field: "zone", op: "is", value: ["cool", "mild", "warm"][index % 3] };
    case 1:
      return { kind: "field", field: "orders", op: "atLeast", value: index };
    case 2:
      return {
        kind: "all",
        of: [
          { kind: "field", field: "member", op: "yes" },
          { kind: "field", field: "joined", op: "onOrAfter", value: `20${10 + (index % 16)}-01-01` },
        ],
      };
    default:
      return {
        kind: "any",
        of: [
          { kind: "field", field: "interests", op: "includes", value: "flowers" },
          { kind: "field", field: "branch", op: "is", value: "Alderwick" },
        ],
      };
  }
});

export async function messageLines(): Promise<Line[]> {
  const lines: Line[] = [];
  // Compile.
  const hundred = sampleEmail(100);
  lines.push([
    "compile a 100-block email",
    ms(await time(20, 5, () => compile(hundred, SAMPLE_OPTIONS))),
    "under 5 ms",
  ]);

  // Personalise against precompiled Handlebars doing the same.
  const program = compile(hundred, SAMPLE_OPTIONS);
  const bound = bind(program, world);
  const readers = people(500).map((contact) =>
    readerOf(contact, "en", previewAddresses("https://septima.example")),
  );
  const template = bound.html
    .map((op, index) => {
      const closings = bound.html
        .filter((other) => other.op === "unless" && other.to === index)
        .map(() => "{{/if}}")
        .join("");
      if (op.op === "static") return closings + op.text.replace(/\{\{/g, "\\{{");
      if (op.op === "unless") return `${closings}{{#if r${op.rule}}}`;
      if (op.op !== "value") throw new Error("the reference has no either/or");
      return `${closings}{{v${op.slot}}}`;
    })
    .join("");
  const handlebars = Handlebars.compile(template);
  const inputs = readers.map((reader) => ({
    ...Object.fromEntries(bound.rules.map((rule, index) => [`r${index}`, rule(reader.contact)])),
    ...Object.fromEntries(
      bound.slots.map((slot, index) => [
        `v${index}`,
        (reader.contact.fields[slot.field] as string) || slot.fallback,
      ]),
    ),
  }));
  const part = bytePart(bound.html, (text) => utf8.encode(text));
  const sink = new ByteSink();
  const size = utf8.encode(personalise(bound, readers[1]).html).length;
  const ours = await time(7, 2000, (index) => {
    runBytes(part, bound, readers[index % readers.length], sink);
    return sink.take().length;
  });
  const theirs = await time(7, 500, (index) => utf8.encode(handlebars(inputs[index % inputs.length])).length);
  lines.push([
    `personalise ${Math.round(size / 1024)} KB to bytes`,
    `${perSecond(ours)}, ${(theirs / ours).toFixed(1)} × precompiled Handlebars (${perSecond(theirs)})`,
    "5 ×",
  ]);

  // Editions.
  const ruled = sampleEmail(100);
  let next = 0;
  for (const section of ruled.sections.slice(0, -1))
    for (const row of section.rows) if (next < 20) row.show = TWENTY_RULES[next++];
  const ruledBound = bind(compile(ruled, SAMPLE_OPTIONS), world);
  const hundredThousand = people(100_000);
  let found = 0;
  const edition = await time(3, 1, () => {
    found = editions(ruledBound, hundredThousand).length;
  });
  lines.push([
    `editions of 100,000 readers, ${ruledBound.rules.length} rules`,
    `${ms(edition)} (${found} editions)`,
    "under 0.5 s",
  ]);

  // MIME against the general mail library's composer, on a message of about 40 KB.
  const mimeBound = bind(compile(sampleEmail(28), SAMPLE_OPTIONS), world);
  const headers = {
    from: "letters@tansyrow.example",
    listId: { name: "Tansy Row", domain: "letters.tansyrow.example" },
  };
  const factory = new MessageFactory(mimeBound, headers, "septima-bench");
  const build = (index: number) => {
    const reader = readers[index % readers.length];
    return factory.build(reader, {
      to: { name: "Ines", address: reader.contact.email },
      messageId: `b.${index}@tansyrow.example`,
      date: 0,
      unsubscribe: reader.system.unsubscribe,
    });
  };
  const mime = await time(5, 1000, build);
  const wholes = readers.slice(0, 50).map((reader) => personalise(mimeBound, reader));
  const composer = await time(3, 50, async (index) => {
    const { html, text, subject } = wholes[index % wholes.length];
    await new MailComposer({ from: "letters@tansyrow.example", to: "ines@mail.example", subject, html, text })
      .compile()
      .build();
  });
  lines.push([
    `build a MIME message of ${Math.round(build(1).length / 1024)} KB`,
    `${perSecond(mime)}, ${(composer / mime).toFixed(1)} × the mail library’s composer (${perSecond(composer)})`,
    "20 ×",
  ]);

  const folder = await mkdtemp(path.join(tmpdir(), "septima-bench-"));
  try {
    // Hand-over to the postroom.
    const postroom = await openPostroomApart(
      await bundled("standins/postroom/thread.ts"),
      path.join(folder, "postroom"),
      {},
    );
    const relay = openRelay(postroom.address);
    const handOver = async (count: number, make: (index: number) => Uint8Array) => {
      let index = 0;
      const start = performance.now();
      await Promise.all(
        Array.from({ length: relay.connections }, async () => {
          while (index < count) {
            const mine = index++;
            await relay.send(
              { from: "letters@tansyrow.example", to: `reader${mine}@mail.example` },
              make(mine),
            );
          }
        }),
      );
      return (performance.now() - start) / 1000 / count;
    };
    await handOver(500, build);
    lines.push(["build and hand over to the postroom", perSecond(await handOver(4000, build)), "800/s"]);
    const small = build(0).subarray(0, 2000);
    lines.push(["hand over 2 KB messages", perSecond(await handOver(4000, () => small)), ""]);
    await relay.close();
    await postroom.close();
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  return lines;
}
