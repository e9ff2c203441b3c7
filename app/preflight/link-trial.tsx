/** Whether what links lead to is there: their servers are asked when somebody wants to know. */
import { CircleAlert, CircleCheck, CircleHelp } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { LinkTried } from "~/server/preflight/links";
import { asking, tell } from "../requests";
import { Button, buttonLook } from "../ui/button";
import { Problem } from "../ui/form";
import { Progress } from "../ui/progress";
import { count, counted } from "../ui/time";

interface Trial {
  of: number;
  tried: LinkTried[];
  over: boolean;
}

const LOOKS = {
  dead: { icon: CircleAlert, ink: "text-red", said: "Not there" },
  unsure: { icon: CircleHelp, ink: "text-amber", said: "Cannot be told" },
} as const;

export function LinkTrial({ campaign }: { campaign: string }) {
  const [trial, setTrial] = useState<Trial | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const call = useRef<ReturnType<typeof asking> | null>(null);
  useEffect(() => () => call.current?.abort(), []);
  const busy = trial !== null && !trial.over;
  const begin = async () => {
    call.current?.abort();
    call.current = asking();
    const { signal } = call.current;
    setProblem(null);
    setTrial({ of: 0, tried: [], over: false });
    const tried: LinkTried[] = [];
    for (let from: number | null = 0; from !== null; ) {
      const answer: Awaited<ReturnType<typeof next>> = await next(campaign, from, signal);
      if (signal.aborted) return;
      if (answer.problem !== null) {
        setProblem(answer.problem);
        setTrial(null);
        return;
      }
      tried.push(...answer.result.tried);
      from = answer.result.next;
      setTrial({ of: answer.result.of, tried: [...tried], over: from === null });
    }
  };
  const wrong = (trial?.tried ?? []).filter(({ verdict }) => verdict !== "fine");
  return (
    <section aria-label="Links tried" className="mt-5 max-w-3xl">
      <div className="flex flex-wrap items-center gap-3">
        <Button busy={busy} onClick={begin}>
          Try the links
        </Button>
        <p className="text-ink-soft" aria-live="polite">
          {trial === null
            ? "Asks each server whether what a link leads to is there."
            : busy
              ? `${count(trial.tried.length)} of ${trial.of === 0 ? "…" : count(trial.of)} tried`
              : trial.of === 0
                ? "No link leads away from the message."
                : wrong.length === 0
                  ? `${counted(trial.of, "link answers", "links answer")}.`
                  : `${count(wrong.length)} of ${counted(trial.of, "link")} to look at.`}
        </p>
        {trial?.over && trial.of > 0 && wrong.length === 0 && (
          <CircleCheck className="size-4 text-green" aria-hidden />
        )}
      </div>
      {busy && (
        <div className="mt-2">
          <Progress label="Links tried" share={trial.of === 0 ? null : trial.tried.length / trial.of} />
        </div>
      )}
      {problem && (
        <div className="mt-2">
          <Problem>{problem}</Problem>
        </div>
      )}
      {wrong.length > 0 && (
        <ul className="mt-3 card divide-y">
          {wrong.map((one) => {
            const look = LOOKS[one.verdict as keyof typeof LOOKS];
            return (
              <li
                key={one.href}
                className="grid grid-cols-[20px_minmax(0,1fr)_auto] items-start gap-3 px-4 py-2.5"
              >
                <look.icon className={`mt-0.5 size-4 ${look.ink}`} aria-label={look.said} />
                <div className="min-w-0">
                  <p className="font-medium break-words">{one.words || "A link without words"}</p>
                  <p className="break-all text-ink-soft">{one.href}</p>
                  <p className="break-words">{one.why}</p>
                </div>
                {one.block && (
                  <Link
                    className={buttonLook("quiet")}
                    to={`/campaigns/${campaign}/compose?select=${encodeURIComponent(one.block)}`}
                    aria-label={`Show it: ${one.words || one.href}`}
                  >
                    Show it
                  </Link>
                )}
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}

const next = (campaign: string, from: number, signal: AbortSignal) =>
  tell("/campaigns/:campaign/preflight/links", { from }, { at: { campaign }, signal });
