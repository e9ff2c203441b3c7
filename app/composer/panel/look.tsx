import { commands } from "~/core/compose";
import { equalWidths, type Located, type Row, type Section } from "~/core/email";
import { NODE_PROPERTIES } from "~/core/properties";
import { Button } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { Choice, Line } from "../../ui/form";
import { Switch } from "../../ui/switch";
import { Part } from "../controls/part";
import { PictureFields } from "../controls/picture";
import { newId, useComposerStore } from "../state/store";
import { PropertyControl } from "./control";
import { useSet } from "./lines";
import { PropertyParts } from "./properties";

/** How a part of the layout looks, and how it is divided. */
export function NodeLook({ of: { kind, node } }: { of: Located }) {
  return (
    <>
      {kind === "row" && <Columns row={node} />}
      <PropertyParts node={node} properties={NODE_PROPERTIES[kind]} />
      {kind === "section" && <SectionPicture section={node} />}
    </>
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

function Columns({ row }: { row: Row }) {
  const store = useComposerStore();
  const now = row.columns.map((column) => column.width);
  const at = DIVISIONS.findIndex(
    ({ widths }) =>
      widths.length === now.length && widths.every((width, index) => Math.abs(width - now[index]) < 1),
  );
  const divide = (widths: readonly number[], label: string) =>
    store.getState().apply(commands.divide(row.id, widths, newId), label);
  const { gap, valign } = NODE_PROPERTIES.row;
  return (
    <Part title="Columns">
      <Line label="Divided">
        <Choose
          label="Divided"
          value={at < 0 ? "" : String(at)}
          placeholder="As it is"
          onChange={(index) => divide(DIVISIONS[Number(index)].widths, "Dividing the row")}
          options={DIVISIONS.map((division, index) => ({ value: String(index), label: division.label }))}
        />
      </Line>
      {row.columns.length > 1 && (
        <>
          <div className="flex items-center justify-between gap-2 text-ink-soft">
            <span className="tabular-nums">{now.map((width) => `${Math.round(width)} %`).join(" · ")}</span>
            {Math.max(...now) - Math.min(...now) > 1 && (
              <Button kind="quiet" onClick={() => divide(equalWidths(now.length), "Making columns equal")}>
                Make equal
              </Button>
            )}
          </div>
          <PropertyControl node={row} at="gap" property={gap} />
          <PropertyControl node={row} at="valign" property={valign} />
        </>
      )}
    </Part>
  );
}

/** A picture behind the section, and the colour for programs that show none. */
function SectionPicture({ section }: { section: Section }) {
  const set = useSet(section.id);
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
            <Choice
              label="How the picture is shown"
              value={picture.tile ? "tile" : "fill"}
              onChange={(how) => change({ tile: how === "tile" })}
              options={[
                { value: "fill", label: "Filling" },
                { value: "tile", label: "Repeated" },
              ]}
            />
          </Line>
          <Line label="In view">
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
