import { useState } from "react";
import { useFetcher } from "react-router";
import { Button } from "../ui/button";
import { Input } from "../ui/form";
import { timeWords } from "../ui/time";

/** Why somebody is not written to, and the way back where there is one. */
export function Suppressed({
  status,
  why,
  now,
}: {
  status: "bounced" | "complained";
  why: { at: string; kind: "gone" | "soft" | "complaint"; words: string; returned: string | null } | null;
  now: number;
}) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [way, setWay] = useState("");
  const busy = fetcher.state !== "idle";
  return (
    <section className="card space-y-2 p-4" aria-label="Why they are not written to">
      <p>
        {status === "complained" ? "They called a letter spam." : "The address takes no mail."}{" "}
        {why && (
          <span className="text-ink-soft">
            {timeWords(why.at, now)}: {why.words || "no words were given"}.{" "}
            {why.returned && (
              <a
                className="underline underline-offset-2 hover:text-mulberry"
                href={`/settings/returned/${why.returned}/source`}
              >
                As it came back
              </a>
            )}
          </span>
        )}
      </p>
      {status === "complained" ? (
        <p className="text-ink-soft">
          That is for ever: neither the law nor their mailbox want them written to again.
        </p>
      ) : (
        <div className="flex flex-wrap items-center gap-2">
          <Input
            aria-label="How you know that it takes mail again"
            placeholder="How you know that it takes mail again"
            className="grow basis-48"
            value={way}
            onChange={(event) => setWay(event.target.value)}
          />
          <Button
            disabled={way.trim() === ""}
            busy={busy}
            onClick={() =>
              fetcher.submit(JSON.stringify({ lift: way }), { method: "post", encType: "application/json" })
            }
          >
            Write to it again
          </Button>
        </div>
      )}
      {fetcher.data?.problem && !busy && (
        <p role="alert" className="text-red">
          {fetcher.data.problem}
        </p>
      )}
    </section>
  );
}
