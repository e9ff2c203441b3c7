/** Designs and commands chosen by numbers, for property tests. */
import {
  BLOCK_TYPES,
  type BlockTypeName,
  blockType,
  createBlock,
  propertiesOf,
  type TableBlock,
  tableEdits,
  wordsOf,
} from "../blocks";
import {
  type Align,
  type Block,
  type Email,
  FILL_ROLES,
  isRichDoc,
  type Located,
  mapLines,
  type Words,
  walk,
} from "../email";
import { GLYPH_NAMES } from "../markup";
import { type ListProperty, NODE_PROPERTIES, oneMore, type Property } from "../properties";
import { type Command, commands } from "./commands";
import type { IdMaker } from "./ids";
import { blankEmail, LAYOUTS } from "./layouts";
import { linksOf, setLinks } from "./links";
import { fromShelf, spreadLook } from "./looks";
import { placesFor } from "./places";

const NAMES = Object.keys(BLOCK_TYPES) as BlockTypeName[];

/** A design with a block of every type. */
export function everyBlock(newId: IdMaker): Email {
  const email = blankEmail(LAYOUTS[1], { name: "Tansy Row", address: "a@b.example" }, "plain", newId);
  const blocks = NAMES.filter((name) => name !== "footer").map((name) => freshBlock(name, newId()));
  const half = Math.ceil(blocks.length / 2);
  const columns = [blocks.slice(0, half), blocks.slice(half)].map((list) => ({
    id: newId(),
    width: 50,
    blocks: list,
  }));
  const section = { id: newId(), rows: [{ id: newId(), columns }] };
  return { ...email, sections: email.sections.toSpliced(1, 0, section) };
}

function freshBlock(name: BlockTypeName, id: string): Block {
  // With a picture, the canvas has no more places that wait than the message.
  return { ...createBlock(name, id), ...(name === "signature" && { src: "/pictures/x.png" }) };
}

const PADDING = { top: 4, right: 0, bottom: 0, left: 8 };

/** What can be done to a node of a kind, each a command or nothing where it does not fit. */
const OWN_COMMANDS: ((it: Located, number: number, newId: IdMaker) => Command | null)[] = [
  layoutSetting,
  layoutSetting,
  ({ kind, node }, n) =>
    kind === "column"
      ? null
      : commands.set(node.id, { phone: n % 3 ? { padding: { ...PADDING, top: n % 40 } } : undefined }),
  ({ kind, node }, n, newId) =>
    kind === "row" ? commands.divide(node.id, [[100], [50, 50], [30, 40, 30]][n % 3], newId) : null,
  ({ kind, node }, n) => (kind === "block" ? spreadLook(node.id) : n ? null : null),
  ({ kind, node }, n) => (kind === "block" ? fromShelf(node.id, n % 2 ? "look" : "everything") : null),
  (it, n) => (it.kind === "block" ? writing(it.node, n) : null),
  (it, n) => (it.kind === "block" ? writing(it.node, n) : null),
  (it, n) => (it.kind === "block" ? setting(it.node, n) : null),
  (it, n, newId) => (it.kind === "block" ? itemCommand(it.node, n, newId) : null),
  (it, n, newId) => (it.kind === "block" ? itemCommand(it.node, n, newId) : null),
  ({ node, kind }, n) => (kind === "block" ? switching(node as Block, n) : null),
];

/** Writes into one of a block's places. */
function writing(block: Block, n: number): Command | null {
  const places = wordsOf(block);
  if (places.length === 0) return null;
  const { path, words } = places[n % places.length];
  return commands.setAt(block.id, path, written(words, n));
}

/** Sets one of the properties that nodes of its kind have. */
function layoutSetting({ kind, node }: Located, n: number): Command | null {
  const all = Object.entries<Property>(NODE_PROPERTIES[kind]);
  const [key, property] = all[n % all.length];
  return commands.set(node.id, { [key]: valueBy(property, Math.floor(n / all.length)) });
}

/** Sets one of a block's own properties to a value that its declaration allows. */
function setting(block: Block, n: number): Command | null {
  const own = [...propertiesOf(block)].filter(({ path }) => !path.includes("/"));
  if (own.length === 0) return null;
  const { path, property } = own[n % own.length];
  const value = valueBy(property, n);
  return value === NO_VALUE || !property.schema.safeParse(value).success
    ? null
    : commands.set(block.id, { [path]: value });
}

const NO_VALUE = Symbol("nothing to choose from");

/** A value that a property may have, chosen by a number; some are missing where they may be. */
function valueBy(property: Property, n: number): unknown {
  if (n % 5 === 4 && property.schema.safeParse(undefined).success) return undefined;
  switch (property.kind) {
    case "number":
      return Math.round(property.min + ((n % 101) / 100) * (property.max - property.min));
    case "choice":
      return property.options[n % property.options.length].value;
    case "align":
      return (["left", "center", "right"] as const)[n % 3];
    case "switch":
      return n % 2 === 0;
    case "colour":
      return ["#FFFFFF", "#112233", "#C04080", "#EEDD88", ...(property.role ? FILL_ROLES : [])].at(
        n % (property.role ? 7 : 4),
      );
    case "border":
      return {
        width: 1 + (n % 20),
        style: (["solid", "dashed", "dotted"] as const)[n % 3],
        color: "#336699",
      };
    case "space":
      return { ...PADDING, left: n % 40, top: n % 7 };
    case "text":
      return `text ${n}`.slice(0, property.most);
    case "address":
      return n % 4 === 0 ? "" : `https://a.example/${n}?x=1&y=2`;
    case "drawing":
      return GLYPH_NAMES[n % GLYPH_NAMES.length];
    case "moment":
      return n % 4 === 0 ? "" : `2027-0${1 + (n % 9)}-1${n % 10}T1${n % 10}:30`;
    case "day":
      return `2027-0${1 + (n % 9)}-1${n % 10}`;
    default:
      return NO_VALUE;
  }
}

/** Words with one more of them, in a line and at a place chosen by a number; or one line without any. */
function written(words: Words, n: number): Words {
  const lines = isRichDoc(words) ? Math.max(1, words.content.length) : 1;
  return mapLines(words, (line, index) => {
    if (index !== n % lines) return line;
    if (n % 7 === 6) return [];
    const at = n % (line.length + 1);
    const mark = n % 3 === 0 ? { marks: [{ type: "bold" as const }] } : {};
    return [...line.slice(0, at), { type: "text", text: ` word${n}`, ...mark }, ...line.slice(at)];
  });
}

/** Switches one of a block's parts off, or all of them on. */
function switching(block: Block, n: number): Command | null {
  const parts = blockType(block.type)?.parts ?? [];
  if (parts.length === 0) return null;
  return commands.set(block.id, { off: n % 2 ? [parts[n % parts.length].key] : undefined });
}

/** A type's own commands: rows and columns of tables, items of lists. */
function itemCommand(block: Block, n: number, newId: IdMaker): Command | null {
  if (block.type === "table") {
    const table = block as unknown as TableBlock;
    const row = table.rows[n % table.rows.length];
    const column = table.columns[n % table.columns.length];
    const align: Align = (["left", "center", "right"] as const)[n % 3];
    return commands.set(
      block.id,
      [
        () => (table.rows.length < 20 ? tableEdits.addRow(table, n % (table.rows.length + 1), newId()) : {}),
        () => tableEdits.removeRow(table, row.id),
        () =>
          table.columns.length < 8
            ? tableEdits.addColumn(table, n % (table.columns.length + 1), newId())
            : {},
        () => tableEdits.removeColumn(table, column.id),
        () => tableEdits.setWidth(table, column.id, 5 + (n % 70)),
        () => tableEdits.alignColumn(table, column.id, align),
        () => tableEdits.moveRow(table, 0, n % table.rows.length),
        () => tableEdits.moveColumn(table, 0, n % table.columns.length),
      ][n % 8](),
    );
  }
  const lists = [...propertiesOf(block)].filter(
    ({ path, property }) => property.kind === "list" && !path.includes("/"),
  );
  if (lists.length === 0) return null;
  const { path, property, value } = lists[n % lists.length];
  const items = value as readonly { id: string }[];
  const list = property as ListProperty;
  const rest = items.filter((_, index) => index !== n % items.length);
  if (n % 3 === 0 && rest.length >= list.least) return commands.set(block.id, { [path]: rest });
  if (n % 3 === 1 && items.length > 0)
    return commands.set(block.id, { [path]: [...rest, items[n % items.length]] });
  return items.length < Math.min(6, list.most)
    ? commands.set(block.id, { [path]: [...items, oneMore(list, items, newId())] })
    : null;
}

/** A command chosen by three numbers, among those that the document allows. */
export function commandBy(
  email: Email,
  [what, where, which]: readonly [number, number, number],
  newId: IdMaker,
): Command {
  const nodes = [...walk(email)];
  const it = nodes[which % nodes.length];
  const fresh = () =>
    freshBlock(NAMES.filter((name) => name !== "footer")[which % (NAMES.length - 1)], newId());
  const blocks = nodes.flatMap((one) => (one.kind === "block" ? [one.node] : []));
  const some = blocks
    .filter((block, index) => block.type !== "footer" && (index + which) % 9 === 0)
    .map(({ id }) => id);
  const places = placesFor(email, { kind: "block" });
  const place = places[where % places.length];
  const whole: (() => Command)[] = [
    () => commands.insert(fresh(), "block", place, newId),
    () => commands.insertBlocks([fresh(), fresh()], place, newId),
    () => commands.moveMany(some, place, newId),
    () => commands.duplicateMany(some, newId),
    () => commands.removeMany(some.slice(0, 2)),
    () => commands.setMany(some, { background: "#ABCDEF" }),
    () => setLinks(linksOf(email).map((link) => ({ link, href: `https://a.example/${where}` }))),
    () => {
      if (it.kind === "column") return commands.set(it.node.id, { radius: where % 20 });
      const own = placesFor(email, { kind: it.kind, id: it.node.id });
      return own.length === 0 ? () => {} : commands.move(it.node.id, own[where % own.length], newId);
    },
    () => commands.remove(it.node.id),
    () => commands.duplicate(it.node.id, newId),
    () => commands.setEnvelope({ subject: [{ type: "text", text: `Subject ${where}` }] }),
    () => commands.setWhole({ textPart: where % 3 ? { width: where % 90, links: "numbered" } : undefined }),
    () => commands.setTheme(["plain", "garden", "plum"][where % 3]),
  ];
  const at = what % (whole.length + OWN_COMMANDS.length);
  if (at < whole.length) return whole[at]();
  return OWN_COMMANDS[at - whole.length](it, where, newId) ?? (() => {});
}
