/** Every message of a campaign made, read back and looked at, before any is sent. */
import { CircleCheck } from "lucide-react";
import { useEffect, useReducer, useState } from "react";
import { Link } from "react-router";
import type { Extreme } from "~/core/rehearsal";
import type { Rehearsal as Came } from "~/server/rehearsal/rehearsal";
import { ask, tell } from "../requests";
import { Button, buttonLook } from "../ui/button";
import { Problem } from "../ui/form";
import { Progress } from "../ui/progress";
import { count, counted, kilobytes } from "../ui/time";
import { useAnswer } from "../ui/use-answer";

/** So often it is asked how far it is, in milliseconds. */
const AGAIN = 700;

const ENDS: Record<Extreme, { title: string; words(measure: number): string }> = {
  heaviest: { title: "Heaviest", words: kilobytes },
  longest: { title: "Most words", words: (words) => counted(words, "word") },
  emptiest: { title: "Fewest words", words: (words) => counted(words, "word") },
  subject: { title: "Longest subject", words: (signs) => counted(signs, "character") },
  name: { title: "Longest name", words: (signs) => counted(signs, "character") },
};

/** @param chosen whether there are readers */
export function Rehearsal({ campaign, chosen }: { campaign: string; chosen: boolean }) {
  const [turn, again] = useReducer((turns: number) => turns + 1, 0);
  const [problem, setProblem] = useState<string | null>(null);
  const { last: came, problem: unread } = useAnswer(`${campaign} ${turn}`, (signal) =>
    ask("/campaigns/:campaign/preflight/rehearsal", { at: { campaign }, signal }),
  );
  const running = came?.state === "running";
  // biome-ignore lint/correctness/useExhaustiveDependencies: each answer is followed by the next question
  useEffect(() => {
    if (!running) return;
    const timer = setTimeout(again, AGAIN);
    return () => clearTimeout(timer);
  }, [running, came]);
  const say = async (on: boolean) => {
    const answer = await tell("/campaigns/:campaign/preflight/rehearsal", { on }, { at: { campaign } });
    setProblem(answer.problem);
    again();
  };
  return (
    <section aria-label="Rehearsal" className="mt-8 max-w-3xl">
      <h2 className="mb-1 text-[15px] font-semibold">Rehearsal</h2>
      <p className="mb-3 text-ink-soft">
        Makes every reader’s message to the last character, reads each back as a mail program would, and shows
        the odd ones. Nothing is sent, and no code is used up.
      </p>
      <div className="flex flex-wrap items-center gap-3">
        {running ? (
          <Button onClick={() => say(false)}>Call it off</Button>
        ) : (
          <Button disabled={!chosen} onClick={() => say(true)}>
            {came === null ? "Rehearse every message" : "Rehearse again"}
          </Button>
        )}
        <p className="text-ink-soft" aria-live="polite">
          {!chosen ? "Choose readers first." : came && standing(came)}
        </p>
        {came?.state === "done" && came.odd.length === 0 && (
          <CircleCheck className="size-4 text-green" aria-hidden />
        )}
      </div>
      {running && (
        <div className="mt-2">
          <Progress
            label="Messages made"
            share={came.total === null ? null : came.made / Math.max(1, came.total)}
          />
        </div>
      )}
      {(problem ?? unread) && (
        <div className="mt-2">
          <Problem>{problem ?? unread}</Problem>
        </div>
      )}
      {came?.state === "stopped" && (
        <p role="status" className="mt-2 rounded-md bg-amber-wash px-3 py-2 text-amber">
          {came.trouble}
        </p>
      )}
      {came?.state === "done" && came.made > 0 && <Result campaign={campaign} came={came} />}
    </section>
  );
}

function standing({ state, made, total, took, odd, stale, octets }: Came): string | null {
  if (state === "stopped") return null;
  if (state === "running")
    return total === null ? "Gathering the readers…" : `${count(made)} of ${count(total)} made`;
  if (made === 0) return "Nobody would get it.";
  const seconds = `${((took ?? 0) / 1000).toLocaleString("en", { maximumFractionDigits: 1 })} s`;
  const found =
    odd.length === 0 ? "nothing odd" : `${counted(odd.length, "kind of oddity", "kinds of oddity")}`;
  const words = `${counted(made, "message")} made and read back in ${seconds}, ${kilobytes(octets / made)} each: ${found}.`;
  return stale ? `${words} The design or its readers have changed since.` : words;
}

function Result({ campaign, came }: { campaign: string; came: Came }) {
  const open = (reader: number) => `/campaigns/${campaign}/rehearsed/${reader}`;
  return (
    <>
      {came.odd.length > 0 && (
        <ul className="mt-3 card divide-y" aria-label="Odd messages">
          {came.odd.map((one) => (
            <OddOnes key={one.kind} {...one} open={open} />
          ))}
        </ul>
      )}
      <div className="mt-3 card">
        <table className="w-full text-left" aria-label="Furthest from the usual">
          <thead className="sr-only">
            <tr>
              <th>What</th>
              <th>Whose message</th>
              <th>How much</th>
              <th>Where to see it</th>
            </tr>
          </thead>
          <tbody className="divide-y">
            {came.extremes.map(({ name, some: [first] }) =>
              first ? (
                <tr key={name}>
                  <th scope="row" className="w-px px-4 py-2 font-normal whitespace-nowrap text-ink-soft">
                    {ENDS[name].title}
                  </th>
                  <td className="w-full max-w-0 px-2 py-2">
                    <span className="block truncate" title={`${first.name} ${first.address}`}>
                      {first.name || first.address}
                    </span>
                  </td>
                  <td className="w-px px-2 py-2 text-right whitespace-nowrap tabular-nums">
                    {ENDS[name].words(first.measure)}
                  </td>
                  <td className="w-px px-2 py-1">
                    <Link
                      className={buttonLook("quiet")}
                      to={open(first.reader)}
                      aria-label={`${ENDS[name].title}: open the message of ${first.address}`}
                    >
                      Open
                    </Link>
                  </td>
                </tr>
              ) : null,
            )}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** So many messages with the same oddity stand there at once. */
const FIRST = 4;

function OddOnes({
  title,
  remedy,
  count: many,
  some,
  open,
}: Came["odd"][number] & { open(reader: number): string }) {
  const [all, setAll] = useState(false);
  const shown = all ? some : some.slice(0, FIRST);
  return (
    <li className="px-4 py-3">
      <p className="font-medium">
        {title}, {counted(many, "message")}
      </p>
      <p className="text-ink-soft">{remedy}</p>
      <ul className="mt-1.5">
        {shown.map(({ reader, name, address, said }) => (
          <li key={reader} className="flex items-center justify-between gap-3">
            <span className="min-w-0 break-words">
              {said} <span className="break-all text-ink-soft">· {name || address}</span>
            </span>
            <Link
              className={buttonLook("quiet")}
              to={open(reader)}
              aria-label={`Open the message of ${address}`}
            >
              Open
            </Link>
          </li>
        ))}
      </ul>
      <p className="flex items-center gap-2 text-ink-soft">
        {some.length > shown.length && (
          <Button kind="quiet" onClick={() => setAll(true)}>
            Show {count(some.length - shown.length)} more
          </Button>
        )}
        {many > some.length && (all || some.length <= FIRST) && `and ${count(many - some.length)} more`}
      </p>
    </li>
  );
}
