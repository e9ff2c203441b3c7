import { Fragment } from "react";
import { blockType, type UnreadableBlock } from "~/core/blocks";
import type { Block } from "~/core/email";
import { counts, type Property } from "~/core/properties";
import { PropertyControl } from "./control";
import { ownOf } from "./own";
import { Part } from "./part";

/**
 * The controls of a block: one for each of its properties, under the titles that their declarations name, and beside them
 * what a declaration cannot say (`own/`).
 */
export function BlockControls({ block }: { block: Block }) {
  const type = blockType(block.type);
  if (!type || block.type === "unreadable") return <UnreadableControls block={block} />;
  const { instead = {}, below = {}, parts: Parts } = ownOf(block);
  const groups = new Map<string, [string, Property][]>();
  for (const [key, property] of Object.entries(type.properties)) {
    const { under } = property;
    if (under === undefined || !counts(property, block, block.off)) continue;
    groups.set(under, [...(groups.get(under) ?? []), [key, property]]);
  }
  return (
    <>
      {[...groups].map(([title, properties], index) => (
        <Part key={title} title={title} tone={index === 0 && type.group === "live" ? "teal" : undefined}>
          {index === 0 && type.about && <p className="text-ink-soft">{type.about}</p>}
          {properties.map(([key, property]) => {
            const Instead = instead[key];
            const Below = below[key];
            return (
              <Fragment key={key}>
                {Instead ? (
                  <Instead block={block} />
                ) : (
                  <PropertyControl block={block} at={key} property={property} />
                )}
                {Below && <Below block={block} />}
              </Fragment>
            );
          })}
        </Part>
      ))}
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
