import { BLOCK_TYPES, type TypedBlock } from "~/core/blocks";
import type { ItemFact } from "~/core/items";
import type { ListProperty, TextProperty } from "~/core/properties";
import { Choose } from "../../../ui/choose";
import { Input } from "../../../ui/form";
import { ItemList } from "../../controls/items";
import { newId, useComposer } from "../../state/store";
import { useSet } from "../lines";

type Block = TypedBlock<"items"> | TypedBlock<"picks">;
type Fact = Block["facts"][number];

const list = BLOCK_TYPES.items.properties.facts as ListProperty & { item: { label: TextProperty } };

/** The facts that the sources of a block give their items. */
function useFacts(block: Block): readonly ItemFact[] {
  const sources = useComposer((state) => state.facts.sources);
  const from = new Set(block.type === "picks" ? [block.source] : block.items.map(({ source }) => source));
  const all = sources.filter(({ id }) => from.has(id)).flatMap(({ facts }) => facts);
  return all.filter(({ key }, at) => all.findIndex((one) => one.key === key) === at);
}

/** Which facts are said of items, and what each is called. */
export function ItemFacts({ block }: { block: Block }) {
  const set = useSet<Block>(block.id);
  const there = useFacts(block);
  const said = new Set(block.facts.map(({ fact }) => fact));
  const next = there.find(({ key }) => !said.has(key));
  // What items placed by hand lack is typed, so they may have a fact that no source tells.
  const own = block.type === "items" && (() => ({ id: newId(), fact: `own_${newId()}`, label: "Check-in" }));
  if (there.length === 0 && block.facts.length === 0 && !own)
    return <p className="text-xs text-ink-soft">Its source tells no facts besides.</p>;
  return (
    <ItemList<Fact>
      items={block.facts}
      noun="fact"
      most={list.most}
      fresh={next ? () => ({ id: newId(), fact: next.key, label: next.label }) : own || undefined}
      onChange={(facts, label) => set({ facts }, label)}
    >
      {({ fact, label }, index, change) => (
        <>
          {fact.startsWith("own_") ? (
            <p className="text-xs text-ink-soft">Typed at each item. An address becomes a link.</p>
          ) : there.length > 0 ? (
            <Choose
              label={`Fact, fact ${index + 1}`}
              value={fact}
              placeholder={fact === "" ? "Choose a fact…" : `${fact} (gone)`}
              options={there.map((one) => ({ value: one.key, label: one.label }))}
              onChange={(key) => {
                const found = there.find((one) => one.key === key);
                change({ fact: key, label: found?.label ?? label });
              }}
            />
          ) : (
            <p className="truncate font-medium">{fact}</p>
          )}
          <Input
            aria-label={`Called, fact ${index + 1}`}
            placeholder="Nothing before it"
            maxLength={list.item.label.most}
            value={label}
            onChange={(event) => change({ label: event.target.value })}
          />
        </>
      )}
    </ItemList>
  );
}
