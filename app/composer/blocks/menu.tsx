import { Plus, Trash2 } from "lucide-react";
import type { MenuBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { Button, IconButton } from "../../ui/button";
import { Input } from "../../ui/form";
import { ColorLine, NumberLine, useSet } from "../panel/look";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { HrefProblem } from "./href";

export function MenuControls({ block }: { block: MenuBlock }) {
  const set = useSet(block.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  const change = (at: number, part: Partial<MenuBlock["items"][number]>) =>
    set(
      { items: block.items.map((item, index) => (index === at ? { ...item, ...part } : item)) },
      "Changing the menu",
    );
  return (
    <>
      <Part title="Menu">
        <ul className="space-y-2.5">
          {block.items.map((item, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: links of a menu have no identity besides their place
            <li key={index} className="space-y-1">
              <div className="flex gap-1">
                <Input
                  aria-label={`Words of link ${index + 1}`}
                  value={item.label}
                  onChange={(event) =>
                    event.target.value !== "" && change(index, { label: event.target.value })
                  }
                />
                <IconButton
                  label={`Remove link ${index + 1}`}
                  onClick={() =>
                    set({ items: block.items.filter((_, at) => at !== index) }, "Removing a link")
                  }
                >
                  <Trash2 className="size-4" />
                </IconButton>
              </div>
              <Input
                aria-label={`Address of link ${index + 1}`}
                placeholder="https://"
                value={item.href}
                onChange={(event) => change(index, { href: event.target.value })}
              />
              <HrefProblem href={item.href} />
            </li>
          ))}
        </ul>
        {block.items.length < 12 && (
          <Button
            onClick={() => set({ items: [...block.items, { label: "New link", href: "" }] }, "Adding a link")}
          >
            <Plus className="size-4" aria-hidden /> Link
          </Button>
        )}
      </Part>
      <Part title="Look">
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <NumberLine
          label="Size"
          unit="px"
          value={block.size}
          min={10}
          max={24}
          onChange={(size) => set({ size })}
        />
        <ColorLine
          label="Colour"
          value={block.color}
          theme={theme.light.link}
          against={block.background ?? theme.light.paper}
          onChange={(color) => set({ color })}
        />
      </Part>
    </>
  );
}
