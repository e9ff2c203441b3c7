import { AlignCenterHorizontal, AlignEndHorizontal, AlignStartHorizontal } from "lucide-react";
import { commands } from "~/core/compose";
import {
  type Block,
  type Column,
  equalWidths,
  type Row,
  type resolveTheme,
  type Section,
} from "~/core/email";
import { Button } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { Choice, Input, Line } from "../../ui/form";
import { Switch } from "../../ui/switch";
import { PictureFields } from "../controls/picture";
import { newId, useComposerStore } from "../store";
import { useTheme } from "../theme";
import { BorderLines, ColorLine, NumberLine, PaddingLines, useSet } from "./lines";
import { Part } from "./part";

function NameLine({ id, name }: { id: string; name: string | undefined }) {
  const set = useSet(id);
  return (
    <Line label="Name">
      {(field) => (
        <Input
          id={field}
          value={name ?? ""}
          placeholder="for the outline"
          onChange={(event) => set({ name: event.target.value || undefined }, "Renaming")}
        />
      )}
    </Line>
  );
}

const NONE = { top: 0, right: 0, bottom: 0, left: 0 };

export function BlockLook({ block }: { block: Block }) {
  const set = useSet(block.id);
  const theme = useTheme();
  return (
    <Part title="Place">
      <NameLine id={block.id} name={block.name} />
      <ColorLine
        fills
        label="Background"
        value={block.background}
        theme={theme.light.paper}
        onChange={(background) => set({ background })}
      />
      <PaddingLines
        value={block.padding}
        theme={{ ...NONE, top: theme.space.block, bottom: theme.space.block }}
        onChange={(padding) => set({ padding })}
      />
    </Part>
  );
}

export function ColumnLook({ column }: { column: Column }) {
  const set = useSet(column.id);
  const theme = useTheme();
  return (
    <Part title="Look of the column">
      <ColorLine
        fills
        label="Background"
        value={column.background}
        theme={theme.light.paper}
        onChange={(background) => set({ background })}
      />
      <BorderLines
        value={column.border}
        color={theme.light.line}
        onChange={(border) => set({ border }, "Changing the border")}
      />
      <NumberLine
        label="Corners"
        unit="px"
        value={column.radius}
        theme={0}
        max={60}
        onChange={(radius) => set({ radius })}
      />
      <PaddingLines value={column.padding} theme={NONE} onChange={(padding) => set({ padding })} />
    </Part>
  );
}

const DIVISIONS: readonly { label: string; widths: readonly number[] }[] = [
  { label: "One column", widths: [100] },
  { label: "Two, equal", widths: equalWidths(2) },
  { label: "Two, left wider", widths: [66, 34] },
  { label: "Two, right wider", widths: [34, 66] },
  { label: "Three", widths: equalWidths(3) },
  { label: "Three, middle wider", widths: [25, 50, 25] },
  { label: "Four", widths: equalWidths(4) },
  { label: "Five", widths: equalWidths(5) },
  { label: "Six", widths: equalWidths(6) },
];

export function RowLook({ row }: { row: Row }) {
  const store = useComposerStore();
  const set = useSet(row.id);
  const theme = useTheme();
  const now = row.columns.map((column) => column.width);
  const at = DIVISIONS.findIndex(
    ({ widths }) =>
      widths.length === now.length && widths.every((width, index) => Math.abs(width - now[index]) < 1),
  );
  return (
    <>
      <Part title="Columns">
        <Line label="Divided">
          {(id) => (
            <Choose
              id={id}
              label="Divided"
              value={at < 0 ? "" : String(at)}
              placeholder="As it is"
              onChange={(index) =>
                store
                  .getState()
                  .apply(commands.divide(row.id, DIVISIONS[Number(index)].widths, newId), "Dividing the row")
              }
              options={DIVISIONS.map((division, index) => ({ value: String(index), label: division.label }))}
            />
          )}
        </Line>
        {row.columns.length > 1 && (
          <>
            <div className="flex items-center justify-between gap-2 text-ink-soft">
              <span className="tabular-nums">{now.map((width) => `${Math.round(width)} %`).join(" · ")}</span>
              {Math.max(...now) - Math.min(...now) > 1 && (
                <Button
                  kind="quiet"
                  onClick={() =>
                    store
                      .getState()
                      .apply(commands.divide(row.id, equalWidths(now.length), newId), "Making columns equal")
                  }
                >
                  Make equal
                </Button>
              )}
            </div>
            <NumberLine
              label="Gap"
              unit="px"
              value={row.gap}
              theme={theme.space.gap}
              max={120}
              onChange={(gap) => set({ gap })}
            />
            <Line label="Stand at">
              {() => (
                <Choice
                  label="Columns stand at"
                  value={row.valign ?? "top"}
                  onChange={(valign) => set({ valign: valign === "top" ? undefined : valign })}
                  options={[
                    { value: "top", label: "Top", icon: <AlignStartHorizontal className="size-4" /> },
                    { value: "middle", label: "Middle", icon: <AlignCenterHorizontal className="size-4" /> },
                    { value: "bottom", label: "Bottom", icon: <AlignEndHorizontal className="size-4" /> },
                  ]}
                />
              )}
            </Line>
          </>
        )}
      </Part>
      <Part title="Look of the row">
        <NameLine id={row.id} name={row.name} />
        <ColorLine
          fills
          label="Background"
          value={row.background}
          theme={theme.light.paper}
          onChange={(background) => set({ background })}
        />
        <PaddingLines
          value={row.padding}
          theme={{ ...NONE, left: theme.space.inset, right: theme.space.inset }}
          onChange={(padding) => set({ padding })}
        />
      </Part>
    </>
  );
}

export function SectionLook({ section }: { section: Section }) {
  const set = useSet(section.id);
  const theme = useTheme();
  return (
    <>
      <SectionPlace section={section} theme={theme} set={set} />
      <SectionPicture section={section} set={set} />
    </>
  );
}

type SetProperties = ReturnType<typeof useSet>;

/** A picture behind the section, and the colour for programs that show none. */
function SectionPicture({ section, set }: { section: Section; set: SetProperties }) {
  const { picture } = section;
  const change = (part: Partial<NonNullable<Section["picture"]>>) =>
    set(
      { picture: { src: "", position: "center", tile: false, open: false, ...picture, ...part } },
      "Changing the picture behind",
    );
  return (
    <Part title="Picture behind">
      <PictureFields
        picture={{ src: picture?.src ?? "" }}
        leads={false}
        said={false}
        onChange={({ src }) => src !== undefined && change({ src })}
      />
      {picture && (
        <>
          <Line label="Shown">
            {() => (
              <Choice
                label="How the picture is shown"
                value={picture.tile ? "tile" : "fill"}
                onChange={(how) => change({ tile: how === "tile" })}
                options={[
                  { value: "fill", label: "Filling" },
                  { value: "tile", label: "Repeated" },
                ]}
              />
            )}
          </Line>
          <Line label="In view">
            {() => (
              <Choice
                label="Which part stays in view"
                value={picture.position}
                onChange={(position) => change({ position })}
                options={[
                  { value: "top", label: "Top" },
                  { value: "center", label: "Middle" },
                  { value: "bottom", label: "Bottom" },
                ]}
              />
            )}
          </Line>
          <Switch checked={picture.open} onChange={(on) => change({ open: on })}>
            The content stands right on it
          </Switch>
          <p className="text-xs text-ink-soft">
            Programs that show no pictures behind content show the colour “around” instead.
          </p>
          <Button kind="quiet" onClick={() => set({ picture: undefined }, "Taking the picture away")}>
            Take the picture away
          </Button>
        </>
      )}
    </Part>
  );
}

function SectionPlace({
  section,
  theme,
  set,
}: {
  section: Section;
  theme: ReturnType<typeof resolveTheme>;
  set: SetProperties;
}) {
  return (
    <Part title="Look of the section">
      <NameLine id={section.id} name={section.name} />
      <ColorLine
        fills
        label="Around"
        value={section.background}
        theme={theme.light.table}
        onChange={(background) => set({ background })}
      />
      <ColorLine
        fills
        label="Behind"
        value={section.contentBackground}
        theme={section.background ?? theme.light.paper}
        onChange={(contentBackground) => set({ contentBackground })}
      />
      <NumberLine
        label="Width"
        unit="px"
        value={section.width}
        theme={theme.width}
        min={320}
        max={700}
        onChange={(width) => set({ width })}
      />
      <BorderLines
        value={section.border}
        color={theme.light.line}
        onChange={(border) => set({ border }, "Changing the border")}
      />
      <NumberLine
        label="Corners"
        unit="px"
        value={section.radius}
        theme={0}
        max={60}
        onChange={(radius) => set({ radius })}
      />
      <PaddingLines
        value={section.padding}
        theme={{ ...NONE, top: theme.space.section, bottom: theme.space.section }}
        onChange={(padding) => set({ padding })}
      />
    </Part>
  );
}
