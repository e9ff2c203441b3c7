import { type ComponentType, Fragment, type ReactNode } from "react";
import { blockType, type UnreadableBlock } from "~/core/blocks";
import type { Block } from "~/core/email";
import { counts, type Properties, type Property } from "~/core/properties";
import { Part } from "../controls/part";
import { PropertyBox, PropertyControl } from "./control";
import type { Settable } from "./lines";
import { ownOf } from "./own";

type Beside = Readonly<Record<string, ComponentType<{ block: Block }> | undefined>>;

/** The controls of all properties that stand under a title, in parts with these. */
export function PropertyParts({
  node,
  properties,
  instead = {},
  below = {},
  first,
}: {
  node: Settable;
  properties: Properties;
  /** What stands in place of the control of a property of a block, or below it. */
  instead?: Beside;
  below?: Beside;
  /** What the first part begins with, and whether it is about live content. */
  first?: { about: ReactNode; live: boolean };
}) {
  const groups = new Map<string, [string, Property][]>();
  for (const [key, property] of Object.entries(properties)) {
    const { under } = property;
    if (under === undefined || !counts(property, node, node.off as Block["off"])) continue;
    groups.set(under, [...(groups.get(under) ?? []), [key, property]]);
  }
  return [...groups].map(([title, properties], index) => (
    <Part key={title} title={title} tone={index === 0 && first?.live ? "teal" : undefined}>
      {index === 0 && first?.about}
      {properties.map(([key, property]) => {
        const Instead = instead[key];
        const Below = below[key];
        return (
          <Fragment key={key}>
            {Instead ? (
              <PropertyBox at={key}>
                <Instead block={node as Block} />
              </PropertyBox>
            ) : (
              <PropertyControl node={node} at={key} property={property} />
            )}
            {Below && <Below block={node as Block} />}
          </Fragment>
        );
      })}
    </Part>
  ));
}

/** The controls of a block's own properties, and beside them what a declaration cannot say (`own/`). */
export function BlockControls({ block }: { block: Block }) {
  const type = blockType(block.type);
  if (!type || block.type === "unreadable") return <UnreadableControls block={block} />;
  const { instead, below, parts: Parts } = ownOf(block);
  const about = type.about && <p className="text-ink-soft">{type.about}</p>;
  return (
    <>
      <PropertyParts
        node={block}
        properties={type.properties}
        instead={instead}
        below={below}
        first={{ about, live: type.group === "live" }}
      />
      {Parts && <Parts block={block} />}
    </>
  );
}

/** What is known of a block that cannot be read. */
function UnreadableControls({ block }: { block: Block }) {
  const { why, raw } = block as unknown as UnreadableBlock;
  return (
    <Part title="Unreadable block">
      <p>{why}</p>
      <p className="text-ink-soft">
        It is kept as it is and not sent. The version that made it may read it; or delete it.
      </p>
      <details>
        <summary className="cursor-pointer text-ink-soft">What is stored</summary>
        <pre className="mt-1 max-h-60 overflow-auto rounded-md bg-table p-2 font-mono text-xs">
          {JSON.stringify(raw, null, 2)}
        </pre>
      </details>
    </Part>
  );
}
