import type { AppointmentBlock } from "~/core/blocks";
import { Input, Line } from "../../ui/form";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { AlignLine } from "./align";
import { TimeLine, ZoneLine } from "./when";

export function AppointmentControls({ block }: { block: AppointmentBlock }) {
  const set = useSet(block.id);
  const field = (key: "title" | "place" | "about", label: string) => (
    <Line label={label}>
      {(id) => (
        <Input
          id={id}
          value={block[key]}
          onChange={(event) => set({ [key]: event.target.value }, "Changing the entry")}
        />
      )}
    </Line>
  );
  return (
    <Part title="Calendar entry">
      {field("title", "Title")}
      <TimeLine
        label="Starts"
        value={block.start}
        onChange={(start) => set({ start }, "Choosing the start")}
      />
      <TimeLine label="Ends" value={block.end} onChange={(end) => set({ end }, "Choosing the end")} />
      {block.start !== "" && block.end !== "" && block.end < block.start && (
        <p className="text-xs text-amber" role="status">
          It ends before it starts: an hour is taken instead.
        </p>
      )}
      <ZoneLine value={block.zone} onChange={(zone) => set({ zone }, "Choosing the zone")} />
      {field("place", "Place")}
      {field("about", "About")}
      <AlignLine value={block.align} onChange={(align) => set({ align })} />
    </Part>
  );
}
