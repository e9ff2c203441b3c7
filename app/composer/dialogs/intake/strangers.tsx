import { type Named, type NamedKind, namedKey, namesIn, type Renaming } from "~/core/compose";
import type { Email } from "~/core/email";
import { Choose } from "../../../ui/choose";
import { counted } from "../../../ui/time";
import type { Facts } from "../../state/store";

const NOUNS: Record<NamedKind, string> = {
  field: "the field",
  list: "the list",
  segment: "the segment",
  lookup: "the lookup",
  code: "the batch of codes",
  source: "the source",
};

/** What this workspace has of each kind. */
function here({ words, tags, sources }: Facts): Record<NamedKind, { value: string; label: string }[]> {
  const named = (all: readonly { id: string; name: string }[]) =>
    all.map(({ id, name }) => ({ value: id, label: name }));
  const keyed = (all: readonly { key: string; name: string }[] = []) =>
    all.map(({ key, name }) => ({ value: key, label: name }));
  return {
    field: words.fields.map(({ key, label }) => ({ value: key, label })),
    list: named(words.lists),
    segment: named(words.segments),
    lookup: keyed(tags.lookups),
    code: keyed(tags.codes),
    source: named(sources),
  };
}

/** What a design names that this workspace does not have. */
export function strangersIn(email: Email, facts: Facts): Named[] {
  const known = here(facts);
  return namesIn(email).filter(({ kind, key }) => known[kind].every(({ value }) => value !== key));
}

const LEAVE = "leave";
const OUT = "out";

/** What is named and not there: something of one's own takes its place, it is left out, or somebody looks at it later. */
export function Strangers({
  strangers,
  names,
  facts,
  renaming,
  onChange,
}: {
  strangers: readonly Named[];
  /** What they were called where the design comes from. */
  names: Readonly<Record<string, string>>;
  facts: Facts;
  renaming: Renaming;
  onChange(renaming: Renaming): void;
}) {
  const known = here(facts);
  return (
    <section aria-label="Not in this workspace" className="rounded-md border px-3 py-2">
      <p className="font-medium">
        It names {counted(strangers.length, "thing")} that this workspace does not have. What takes the place
        of each?
      </p>
      <p className="text-ink-soft">
        Left out, a tag says its fallback, and a part that only some get goes with its rule. What is left as
        it is nobody gets, and the sheet says so.
      </p>
      <ul className="mt-2 max-h-56 space-y-1.5 overflow-y-auto">
        {strangers.map((one) => {
          const id = namedKey(one);
          const chosen = renaming.get(id);
          const name = names[id] ?? one.key.replaceAll("_", " ");
          return (
            <li key={id} className="grid grid-cols-[minmax(0,1fr)_200px] items-center gap-3">
              <span className="min-w-0 break-words">
                {NOUNS[one.kind]} “{name}”
                {one.count > 1 && <span className="text-ink-soft">, {one.count} times</span>}
              </span>
              <Choose
                label={`What takes the place of ${NOUNS[one.kind]} “${name}”`}
                value={chosen === undefined ? LEAVE : chosen === null ? OUT : `is ${chosen}`}
                options={[
                  { value: LEAVE, label: "Leave it as it is" },
                  { value: OUT, label: "Leave it out" },
                  ...known[one.kind].map(({ value, label }) => ({ value: `is ${value}`, label })),
                ]}
                onChange={(next) => {
                  const changed = new Map(renaming);
                  if (next === LEAVE) changed.delete(id);
                  else changed.set(id, next === OUT ? null : next.slice(3));
                  onChange(changed);
                }}
              />
            </li>
          );
        })}
      </ul>
    </section>
  );
}
