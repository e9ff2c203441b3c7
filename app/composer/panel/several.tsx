import { Copy, Trash2 } from "lucide-react";
import { blockType } from "~/core/blocks";
import { commands } from "~/core/compose";
import { findNode, same } from "~/core/email";
import { Button } from "../../ui/button";
import { Choice, Line } from "../../ui/form";
import { Part } from "../controls/part";
import { useSides } from "../controls/sides";
import { useActions } from "../state/actions";
import { selectedIds, useComposer, useComposerStore } from "../state/store";
import { useTheme } from "../state/theme";
import { ColorLine, PaddingLines } from "./lines";

type Align = "left" | "center" | "right";
const NONE = { top: 0, right: 0, bottom: 0, left: 0 };

/** What can be done to several blocks at once. */
export function SeveralPanel() {
  const store = useComposerStore();
  const actions = useActions();
  const email = useComposer((state) => state.resting);
  const sides = useSides();
  const selection = useComposer((state) => state.selection);
  const also = useComposer((state) => state.also);
  const ids = selectedIds({ selection, also });
  const blocks = ids.flatMap((id) => {
    const found = findNode(email, id);
    return found?.kind === "block" ? [found.node] : [];
  });
  const theme = useTheme();
  const set = (properties: Record<string, unknown>, among = ids) =>
    store
      .getState()
      .apply(
        commands.setMany(among, properties),
        "Changing several",
        `several ${ids.join()} ${Object.keys(properties).join()}`,
      );
  const one = <T,>(values: readonly T[]): T | undefined =>
    values.every((value) => same(value, values[0])) ? values[0] : undefined;
  const aligned = blocks.filter((block) => blockType(block.type)?.properties.align?.kind === "align");
  return (
    <>
      <Part title={`${blocks.length} blocks`}>
        <div className="flex gap-2">
          <Button onClick={() => actions.duplicate()}>
            <Copy className="size-4" aria-hidden /> Duplicate
          </Button>
          <Button kind="danger" onClick={() => actions.remove()}>
            <Trash2 className="size-4" aria-hidden /> Delete
          </Button>
        </div>
        <p className="text-ink-soft">They are dragged, copied and moved by keys together.</p>
      </Part>
      <Part title="Look of all">
        {aligned.length > 0 && (
          <Line label="Aligned">
            <Choice<Align>
              label="All aligned"
              value={
                one(aligned.map((block) => (block.align as Align | undefined) ?? "left")) ?? ("" as Align)
              }
              onChange={(align) =>
                set(
                  { align },
                  aligned.map((block) => block.id),
                )
              }
              options={sides}
            />
          </Line>
        )}
        <ColorLine
          fills
          label="Background"
          value={one(blocks.map((block) => block.background))}
          theme={theme.light.paper}
          onChange={(background) => set({ background })}
        />
        <PaddingLines
          value={one(blocks.map((block) => block.padding))}
          theme={{ ...NONE, top: theme.space.block, bottom: theme.space.block }}
          onChange={(padding) => set({ padding })}
        />
        <Line label="Shown">
          <Choice<"both" | "phone" | "desktop">
            label="All shown on"
            value={
              { phone: "desktop", desktop: "phone", none: "both" }[
                one(blocks.map((block) => block.hideOn)) ?? "none"
              ] as "both" | "phone" | "desktop"
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
        </Line>
      </Part>
    </>
  );
}
