import { blockType } from "~/core/blocks";
import type { Located, Phone, Theme } from "~/core/email";
import { NODE_PROPERTIES, usualOnPhones } from "~/core/properties";
import { Button } from "../../ui/button";
import { Choice, Line } from "../../ui/form";
import { Part } from "../controls/part";
import { useSides } from "../controls/sides";
import { useComposerStore } from "../state/store";
import { useTheme } from "../state/theme";
import { PropertyControl } from "./control";
import { Dot, NumberLine, PaddingLines, useSet } from "./lines";

/** How large words of a block are on phones where nothing else is said, in px. */
function usualSize(block: object, theme: Theme): number {
  const { type, level, size: own } = block as { type?: string; level?: 1 | 2 | 3; size?: number };
  if (own !== undefined) return own;
  if (type !== "heading" || level === undefined) return theme.text.size;
  const { phone, size } = theme.headings[`h${level}`];
  return phone ?? size;
}

/** What is different on phones. Changing something shows the email at phone width. */
export function OnPhones({ node }: { node: Exclude<Located, { kind: "column" }> }) {
  const set = useSet(node.node.id);
  const store = useComposerStore();
  const sides = useSides();
  const theme = useTheme();
  const fixed = node.kind === "block" && node.node.type === "footer";
  const phone: Phone = node.node.phone ?? {};
  const marked = node.node.phone !== undefined;
  const change = (part: Partial<Phone>) => {
    const next = Object.fromEntries(
      Object.entries({ ...phone, ...part }).filter(([, value]) => value !== undefined),
    );
    set({ phone: Object.keys(next).length > 0 ? next : undefined }, "Changing it on phones");
    store.getState().set({ width: "phone" });
  };
  const differs = (key: string) =>
    node.kind === "block" && blockType(node.node.type)?.properties[key]?.phone === true;
  const sized = differs("size");
  const shared = differs("width");
  return (
    <Part
      title="On phones"
      aside={
        marked && (
          <Button
            kind="quiet"
            className="min-h-6! px-1.5! text-xs"
            onClick={() => set({ phone: undefined }, "Resetting it on phones")}
          >
            Reset all
          </Button>
        )
      }
    >
      {node.kind === "row" && node.node.columns.length > 1 && (
        <PropertyControl node={node.node} at="onPhones" property={NODE_PROPERTIES.row.onPhones} />
      )}
      {!fixed && (
        <PropertyControl node={node.node} at="hideOn" property={NODE_PROPERTIES[node.kind].hideOn} />
      )}
      {sized && (
        <NumberLine
          label="Text size"
          unit="px"
          min={8}
          max={80}
          value={phone.size}
          theme={usualSize(node.node, theme)}
          onChange={(size) => change({ size })}
        />
      )}
      {shared && (
        <NumberLine
          label="Its width"
          unit="%"
          min={5}
          max={100}
          value={phone.share}
          theme={(node.node as { width?: number }).width ?? 100}
          onChange={(share) => change({ share })}
        />
      )}
      {differs("align") && (
        <Line
          label="Aligned"
          mark={
            phone.align && <Dot label="alignment on phones" onReset={() => change({ align: undefined })} />
          }
        >
          <Choice
            label="Aligned on phones"
            value={phone.align ?? (node.node as { align?: "left" | "center" | "right" }).align ?? "left"}
            onChange={(align) => change({ align })}
            options={sides}
          />
        </Line>
      )}
      <PaddingLines
        value={phone.padding}
        theme={usualOnPhones(node, theme)}
        label="on phones"
        onChange={(next) => change({ padding: next })}
      />
    </Part>
  );
}
