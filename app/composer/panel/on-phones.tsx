import { blockType } from "~/core/blocks";
import type { Located, Phone, Theme } from "~/core/email";
import { Button } from "../../ui/button";
import { Choice, Line } from "../../ui/form";
import { useSides } from "../controls/sides";
import { useComposerStore } from "../store";
import { useTheme } from "../theme";
import { Dot, NumberLine, PaddingLines, useSet } from "./lines";
import { Part } from "./part";

const NONE = { top: 0, right: 0, bottom: 0, left: 0 };

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
  const padding =
    node.node.padding ??
    (node.kind === "block"
      ? { ...NONE, top: theme.space.block, bottom: theme.space.block }
      : node.kind === "row"
        ? { ...NONE, left: Math.min(20, theme.space.inset), right: Math.min(20, theme.space.inset) }
        : { ...NONE, top: theme.space.section, bottom: theme.space.section });
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
        <Line label="Columns">
          {() => (
            <Choice
              label="Columns on phones"
              value={node.node.onPhones ?? "stack"}
              onChange={(onPhones) => set({ onPhones: onPhones === "stack" ? undefined : onPhones })}
              options={[
                { value: "stack", label: "Stacked" },
                { value: "reverse", label: "Reversed" },
                { value: "beside", label: "Beside" },
              ]}
            />
          )}
        </Line>
      )}
      {!fixed && (
        <Line label="Shown">
          {() => (
            <Choice
              label="Shown on"
              value={
                node.node.hideOn === "phone" ? "desktop" : node.node.hideOn === "desktop" ? "phone" : "both"
              }
              onChange={(shown) =>
                set({ hideOn: shown === "both" ? undefined : shown === "phone" ? "desktop" : "phone" })
              }
              options={[
                { value: "both", label: "Both" },
                { value: "phone", label: "Phone" },
                { value: "desktop", label: "Desktop" },
              ]}
            />
          )}
        </Line>
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
          {() => (
            <Choice
              label="Aligned on phones"
              value={phone.align ?? (node.node as { align?: "left" | "center" | "right" }).align ?? "left"}
              onChange={(align) => change({ align })}
              options={sides}
            />
          )}
        </Line>
      )}
      <PaddingLines
        value={phone.padding}
        theme={padding}
        label="on phones"
        onChange={(next) => change({ padding: next })}
      />
    </Part>
  );
}
