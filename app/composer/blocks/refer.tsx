import { Link } from "react-router";
import { REFER_COUNT, REFER_DONE, REFER_NEXT, type ReferBlock } from "~/core/blocks";
import { Input, Line } from "../../ui/form";
import { Switch } from "../../ui/switch";
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
      <Switch
        checked={block.programme === true}
        onChange={(on) =>
          set(
            on
              ? {
                  programme: true,
                  count: block.count ?? REFER_COUNT,
                  next: block.next ?? REFER_NEXT,
                  done: block.done ?? REFER_DONE,
                }
              : { programme: undefined },
            "Counting friends",
          )
        }
      >
        By each reader’s own link
      </Switch>
      {block.programme ? (
        <>
          <p className="text-ink-soft">
            Friends are counted once they confirmed. What readers earn is under{" "}
            <Link to="/referrals" className="underline">
              Referrals
            </Link>
            .
          </p>
          <Line label="Next">
            {(id) => (
              <Input
                id={id}
                value={block.next ?? REFER_NEXT}
                maxLength={300}
                onChange={(event) => set({ next: event.target.value }, "Changing what comes next")}
              />
            )}
          </Line>
          <p className="text-xs text-ink-soft">
            <code>{"{at}"}</code> is how many friends it takes, <code>{"{reward}"}</code> what they earn.
          </p>
          <Line label="At the end">
            {(id) => (
              <Input
                id={id}
                value={block.done ?? REFER_DONE}
                maxLength={300}
                onChange={(event) => set({ done: event.target.value }, "Changing what comes last")}
              />
            )}
          </Line>
        </>
      ) : (
        <HrefLine href={block.href} onChange={(href) => set({ href }, "Changing the address")} />
      )}
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
