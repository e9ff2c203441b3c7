import { RefreshCw } from "lucide-react";
import { useReducer, useState } from "react";
import { createPortal } from "react-dom";
import { campaign } from "~/server/campaigns/campaigns";
import type { Preflight as Checked } from "~/server/preflight/preflight";
import { Findings } from "../preflight/findings";
import { LinkTrial } from "../preflight/link-trial";
import { recheck } from "../preflight/recheck";
import { Rehearsal } from "../preflight/rehearsal";
import { Wall } from "../preflight/wall";
import { ask } from "../requests";
import { Button } from "../ui/button";
import { Problem } from "../ui/form";
import { Empty } from "../ui/page";
import { counted } from "../ui/time";
import { useAnswer } from "../ui/use-answer";
import type { Route } from "./+types/preflight";
import { useTools } from "./campaign";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { id, readers } = await campaign(context.septima, params.campaign);
  return { id, chosen: readers.include.length > 0 };
}

/** What is wrong with a campaign, in order of harm, each with its mend; and every edition beside it. */
export default function Preflight({ loaderData: { id, chosen } }: Route.ComponentProps) {
  const [turn, again] = useReducer((turns: number) => turns + 1, 0);
  const [marked, mark] = useState<readonly number[] | null>(null);
  // What the design tells is there at once; each edition takes its time.
  const quick = useAnswer(`${id} ${turn}`, (signal) =>
    ask("/campaigns/:campaign/preflight/findings", { at: { campaign: id }, query: { quick: 1 }, signal }),
  );
  const whole = useAnswer(`${id} ${turn}`, (signal) =>
    ask("/campaigns/:campaign/preflight/findings", { at: { campaign: id }, signal }),
  );
  const tools = useTools();
  const problem = whole.problem ?? quick.problem;
  const shown: Checked | null = whole.result ?? whole.last ?? quick.result;
  const looking = whole.waiting;
  const changed = () => {
    again();
    recheck();
  };
  return (
    <main className="grid h-full grid-cols-[minmax(0,1fr)_minmax(300px,460px)] overflow-hidden max-md:grid-cols-1 max-md:overflow-y-auto">
      <title>Preflight · Septima</title>
      {tools &&
        createPortal(
          <>
            <span className="text-ink-soft max-xl:hidden" aria-live="polite">
              {looking
                ? "Looking at each edition…"
                : shown &&
                  `Checked, ${counted(shown.editions.length, "edition")}, ${counted(shown.readers, "reader")}`}
            </span>
            <Button busy={looking} onClick={changed}>
              <RefreshCw className="size-4" aria-hidden /> Again
            </Button>
          </>,
          tools,
        )}
      <div className="relative overflow-y-auto p-5 max-md:overflow-visible">
        {problem && <Problem>{problem}</Problem>}
        {shown ? (
          <>
            <Findings campaign={id} checked={shown} whole={!looking} onChanged={changed} onPoint={mark} />
            <LinkTrial campaign={id} />
            <Rehearsal campaign={id} chosen={chosen} />
          </>
        ) : (
          <h1 className="text-[22px]/7 font-semibold text-ink-soft">
            {problem ? "It could not be looked over" : "Looking it over…"}
          </h1>
        )}
      </div>
      <aside
        aria-label="Every edition"
        className="overflow-y-auto border-l bg-paper p-4 max-md:overflow-visible max-md:border-t max-md:border-l-0"
      >
        {chosen ? (
          <Wall campaign={id} checked={shown} looking={looking} marked={marked} />
        ) : (
          <Empty title="No readers yet">
            Choose lists or segments under Readers, and each edition will stand here.
          </Empty>
        )}
      </aside>
    </main>
  );
}
