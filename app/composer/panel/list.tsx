import { type Inline, inlineText } from "~/core/email";
import type { GlyphName } from "~/core/markup";
import {
  counts,
  type Holder,
  type ListProperty,
  oneMore,
  type Properties,
  type Property,
} from "~/core/properties";
import { Choose } from "../../ui/choose";
import { Choice, Input } from "../../ui/form";
import { GlyphChoice } from "../../ui/glyph-choice";
import { NumberField } from "../../ui/number-field";
import { DayField } from "../../ui/when-field";
import { HrefInput, HrefProblem } from "../controls/href";
import { ItemList } from "../controls/items";
import { PictureFields } from "../controls/picture";
import { newId, useComposer } from "../state/store";
import { isLong, type Settable, useSet } from "./lines";

type Item = Holder & { id: string };

/** The items of a list, each with the controls of its properties. */
export function ListControl({ node, at, property }: { node: Settable; at: string; property: ListProperty }) {
  const set = useSet(node.id);
  const items = node[at] as readonly Item[];
  const { noun, most, least, item } = property;
  return (
    <ItemList
      items={items}
      noun={noun}
      most={most}
      least={least}
      fresh={() => oneMore(property, items, newId()) as Item}
      onChange={(next, label) => set({ [at]: next }, label)}
    >
      {(holder, index, change) => (
        <ItemFields properties={item} item={holder} named={`${noun} ${index + 1}`} onChange={change} />
      )}
    </ItemList>
  );
}

/** The properties of an item; a drawing stands beside what follows it. */
function ItemFields({
  properties,
  item,
  named,
  onChange,
}: {
  properties: Properties;
  item: Item;
  /** What the item is called: "link 2". */
  named: string;
  onChange(part: Holder): void;
}) {
  const shown = Object.entries(properties).filter(
    ([, property]) => property.kind !== "held" && counts(property, item),
  );
  // What belongs to a picture is set with it.
  const picture = shown.find(([, { kind }]) => kind === "picture");
  if (picture) return <PictureFields picture={item as Item & { src: string }} onChange={onChange} />;
  const field = ([key, property]: [string, Property]) => (
    <ItemField key={key} at={key} property={property} item={item} named={named} onChange={onChange} />
  );
  const [first, second, ...rest] = shown;
  if (first?.[1].kind !== "drawing" || !second) return shown.map(field);
  return (
    <>
      <div className="flex items-center gap-2">{[first, second].map(field)}</div>
      {rest.map(field)}
    </>
  );
}

function ItemField({
  at,
  property,
  item,
  named,
  onChange,
}: {
  at: string;
  property: Property;
  item: Item;
  named: string;
  onChange(part: Holder): void;
}) {
  const pictures = useComposer((state) => state.pictures);
  const label = `${property.label}, ${named}`;
  const value = item[at];
  switch (property.kind) {
    case "drawing": {
      const { own } = property;
      return (
        <GlyphChoice
          label={label}
          value={value as GlyphName}
          onChange={(glyph) => onChange({ [at]: glyph, ...(own && { [own]: undefined }) })}
          own={
            own === undefined
              ? undefined
              : {
                  value: item[own] as string | undefined,
                  pictures,
                  onChange: (picture) => onChange({ [own]: picture }),
                }
          }
        />
      );
    }
    case "line":
      return <span className="block truncate text-ink-soft">{inlineText(value as readonly Inline[])}</span>;
    case "text":
      return (
        <>
          <Input
            aria-label={label}
            value={value as string}
            maxLength={property.most}
            placeholder={property.placeholder}
            onChange={({ target }) =>
              target.value.length >= property.least && onChange({ [at]: target.value })
            }
          />
          {property.hint && <p className="text-xs text-ink-soft">{property.hint}</p>}
        </>
      );
    case "address":
      return (
        <>
          <HrefInput
            aria-label={label}
            value={value as string}
            onChange={(href) => onChange({ [at]: href })}
          />
          <HrefProblem href={value as string} />
        </>
      );
    case "day":
      return (
        <DayField
          label={label}
          value={(value as string | undefined) ?? ""}
          onChange={(day) => onChange({ [at]: day || undefined })}
        />
      );
    case "number":
      return (
        <NumberField
          label={label}
          min={property.min}
          max={property.max}
          value={value as number}
          onChange={(number) => onChange({ [at]: number })}
        />
      );
    case "choice": {
      const shown = {
        label,
        value: String(value),
        onChange: (next: string) =>
          onChange({ [at]: property.options.find((one) => String(one.value) === next)?.value }),
        options: property.options.map((one) => ({ ...one, value: String(one.value) })),
      };
      return isLong(property.options) ? <Choose {...shown} /> : <Choice {...shown} />;
    }
    default:
      return null;
  }
}
