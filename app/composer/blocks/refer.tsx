import type { ReferBlock } from "~/core/blocks";
import { Input, Line } from "../../ui/form";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { AlignLine } from "./align";
import { HrefLine } from "./href";

export function ReferControls({ block }: { block: ReferBlock }) {
  const set = useSet(block.id);
  return (
    <Part title="Tell a friend">
      <p className="text-ink-soft">
        The button opens an email to a friend, written for the reader, with the address at its end.
      </p>
      <HrefLine href={block.href} onChange={(href) => set({ href }, "Changing the address")} />
      <Line label="Subject">
        {(id) => (
          <Input
            id={id}
            value={block.subject}
            onChange={(event) => set({ subject: event.target.value }, "Changing the subject")}
          />
        )}
      </Line>
      <div>
        <label htmlFor={`${block.id}-message`} className="mb-1 block text-ink-soft">
          Message
        </label>
        <textarea
          id={`${block.id}-message`}
          className="field h-24 py-1.5"
          maxLength={2000}
          value={block.message}
          onChange={(event) => set({ message: event.target.value }, "Changing the message")}
        />
      </div>
      <AlignLine value={block.align} onChange={(align) => set({ align })} />
    </Part>
  );
}
