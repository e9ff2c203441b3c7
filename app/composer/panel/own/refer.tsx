import { Link } from "react-router";
import { REFER_COUNT, REFER_DONE, REFER_NEXT, type ReferBlock } from "~/core/blocks";
import { Switch } from "../../../ui/switch";
import { useSet } from "../lines";

/** Whether friends are counted; switched on, the words that say so come along. */
export function ReferProgramme({ block }: { block: ReferBlock }) {
  const set = useSet<ReferBlock>(block.id);
  const { programme, count = REFER_COUNT, next = REFER_NEXT, done = REFER_DONE } = block;
  return (
    <>
      <Switch
        checked={programme === true}
        onChange={(on) =>
          set(on ? { programme: true, count, next, done } : { programme: undefined }, "Counting friends")
        }
      >
        By each reader’s own link
      </Switch>
      {programme && (
        <p className="text-ink-soft">
          Friends are counted once they confirmed. What readers earn is under{" "}
          <Link to="/referrals" className="underline">
            Referrals
          </Link>
          .
        </p>
      )}
    </>
  );
}
