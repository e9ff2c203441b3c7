import type { Editor } from "@tiptap/core";
import { Type } from "lucide-react";
import { FONTS, type WordStyle } from "~/core/email";
import { darkGround, type Ground } from "~/core/markup";
import { Button, IconButton } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { Popover } from "../../ui/floating";
import { Choice, Line } from "../../ui/form";
import { NumberField } from "../../ui/number-field";
import { ColourPopover } from "../controls/colour";
import { useGround } from "../controls/ground";
import { useSides } from "../controls/sides";
import { useComposer } from "../state/store";
import { useTheme } from "../state/theme";

/** Font, size, colour and highlight of the selected words, and how their paragraph is aligned. */
export function LookButton({ editor }: { editor: Editor }) {
  const sides = useSides();
  const ground = useGround(useComposer((state) => state.editing) ?? "");
  const theme = useTheme();
  const now = editor.getAttributes("style") as { [Key in keyof WordStyle]: WordStyle[Key] | null };
  const paragraphs = editor.schema.nodes.bulletList !== undefined;
  const align = editor.getAttributes("paragraph").align as "left" | "center" | "right" | null;
  const set = (style: WordStyle) => editor.chain().setWordStyle(style).run();
  const colour = (key: "color" | "highlight", label: string, against?: Ground) => (
    <Line label={label}>
      <div className="flex items-center gap-2">
        <ColourPopover
          label={label}
          value={now[key] ?? undefined}
          against={against}
          onChange={(value) => set({ [key]: value })}
        >
          <button
            type="button"
            aria-label={`Choose the ${label.toLowerCase()}`}
            className="h-7 w-14 rounded-md border"
            style={{
              background: now[key] ?? "linear-gradient(to top right, #fff 48%, #b3261e 49% 51%, #fff 52%)",
            }}
          />
        </ColourPopover>
        {now[key] && (
          <Button kind="quiet" onClick={() => set({ [key]: undefined })}>
            None
          </Button>
        )}
      </div>
    </Line>
  );
  return (
    <Popover
      label="Look of the words"
      className="w-72 space-y-2.5"
      onClosed={() => editor.commands.focus()}
      button={
        <IconButton
          icon={Type}
          label="Look of the words"
          pressed={editor.isActive("style")}
          className="size-7!"
        />
      }
    >
      <Line label="Font">
        <Choose
          label="Font"
          value={now.font ?? "theme"}
          onChange={(font) => set({ font: font === "theme" ? undefined : font })}
          options={[
            { value: "theme", label: "As the theme has it" },
            ...FONTS.map((font) => ({ value: font.key, label: font.name })),
          ]}
        />
      </Line>
      <Line label="Size">
        <div className="flex items-center gap-2">
          <NumberField
            min={8}
            max={96}
            placeholder={String(theme.text.size)}
            value={now.size ?? undefined}
            onChange={(size) => set({ size })}
          />
          <span className="text-ink-soft">px</span>
        </div>
      </Line>
      {colour(
        "color",
        "Colour",
        now.highlight ? { light: now.highlight, dark: darkGround(now.highlight, theme) } : ground,
      )}
      {colour("highlight", "Highlight")}
      {paragraphs && (
        <Line label="Paragraph">
          <Choice
            label="Paragraph aligned"
            value={align ?? "left"}
            onChange={(next) =>
              editor
                .chain()
                .setAlign(next === "left" ? null : next)
                .run()
            }
            options={sides}
          />
        </Line>
      )}
    </Popover>
  );
}
