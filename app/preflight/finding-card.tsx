/** One finding: what, where, whom it touches, why it matters, and what can be done. */
import { useState } from "react";
import { Link } from "react-router";
import type { ShownFinding } from "~/server/preflight/preflight";
import { type Taken, tell } from "../requests";
import { Button, buttonLook } from "../ui/button";
import { Input, Labelled, Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { count, counted } from "../ui/time";
import { TruePicture } from "../ui/true-picture";
import { WEIGHT_LOOKS } from "./weights";

/** The first sentence, and what comes after it. */
function parted(text: string): [string, string] {
  for (const end of text.matchAll(/[.!?…][”’)]?\s+(?=[\p{Lu}“‘\d])/gu)) {
    const at = end.index + end[0].trimEnd().length;
    const first = text.slice(0, at);
    // What is quoted has sentences of its own.
    if (first.split("“").length === first.split("”").length) return [first, text.slice(at).trim()];
  }
  return [text, ""];
}

/** So many editions are named. */
const NAMED = 6;

function touched({ editions, readers }: ShownFinding): string {
  if (editions === null) return "All editions";
  if (editions.length === 0) return "No edition as it is now";
  const numbers = editions.slice(0, NAMED).map(count).join(", ");
  const more = editions.length > NAMED ? ` and ${count(editions.length - NAMED)} more` : "";
  return `Edition${editions.length === 1 ? "" : "s"} ${numbers}${more} · ${counted(readers, "reader")}`;
}

export function FindingCard({
  campaign,
  finding,
  readers,
  as,
  onChanged,
}: {
  campaign: string;
  finding: ShownFinding;
  /** Whose message shows it. */
  as: number | null;
  /** All who get the campaign. */
  readers: number;
  onChanged(): void;
}) {
  const notify = useNotify();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const { id, state, weight, text, why, block, mend, aside, unknown } = finding;
  const { icon: Icon, ink, title } = WEIGHT_LOOKS[weight];
  const [what, remedy] = parted(text);
  const place = "/campaigns/:campaign/preflight/findings";
  const act = async <B extends Taken<typeof place>>(body: B) => {
    setBusy(true);
    setProblem(null);
    const answer = await tell(place, body, { at: { campaign } });
    setBusy(false);
    if (answer.problem !== null) setProblem(answer.problem);
    else onChanged();
    return answer;
  };
  const mendIt = async () => {
    const answer = await act({ intent: "mend", id });
    if (answer.problem !== null || answer.result === null) return;
    const { revision, back } = answer.result;
    notify({
      text: `${mend?.label}: done.`,
      action: { label: "Undo", run: () => void act({ intent: "takeBack", revision, back }) },
    });
  };
  const keepThem = async () => {
    if ((await act({ intent: "keepWords", words: unknown ?? [] })).problem === null)
      notify({ text: "It is known from now on. Under Brand it can be taken out again." });
  };
  return (
    <article
      aria-label={what}
      className={`card grid grid-cols-[20px_minmax(0,1fr)_auto] gap-x-3 gap-y-1 px-4 py-3 max-sm:grid-cols-[20px_minmax(0,1fr)] ${aside ? "opacity-80" : ""}`}
      data-check={finding.check}
    >
      <Icon className={`mt-0.5 size-4 ${ink}`} aria-label={title} />
      <div className="min-w-0 space-y-1">
        <h3 className="font-semibold break-words">{what}</h3>
        {remedy && <p className="break-words">{remedy}</p>}
        <p className="text-ink-soft">
          {readers > 0 && <span className="text-teal">{touched(finding)}. </span>}
          {why}
        </p>
        {aside && (
          <p className="text-ink-soft">
            Set aside: “{aside.reason}”. It comes back when what stands there changes.
          </p>
        )}
        {problem && <Problem>{problem}</Problem>}
        <div className="flex flex-wrap items-center gap-2 pt-1">
          {mend && !aside && (
            <Button busy={busy} onClick={mendIt}>
              {mend.label}
            </Button>
          )}
          {unknown && !aside && (
            <Button kind={mend ? "quiet" : "plain"} busy={busy} onClick={keepThem}>
              {unknown.length === 1 ? `“${unknown[0]}” is a word of ours` : "They are words of ours"}
            </Button>
          )}
          {block && (
            <Link
              className={buttonLook("quiet")}
              to={`/campaigns/${campaign}/compose?select=${encodeURIComponent(block)}`}
              aria-label={`Show it: ${what}`}
            >
              Show it
            </Link>
          )}
          {weight !== "stops" &&
            (aside ? (
              <Button
                kind="quiet"
                busy={busy}
                onClick={() => act({ intent: "takeUp", id })}
                aria-label={`Take it up again: ${what}`}
              >
                Take it up again
              </Button>
            ) : (
              !asking && (
                <Button kind="quiet" onClick={() => setAsking(true)} aria-label={`Set aside…: ${what}`}>
                  Set aside…
                </Button>
              )
            ))}
        </div>
        {asking && !aside && (
          <form
            className="flex items-end gap-2 pt-1"
            onSubmit={async (event) => {
              event.preventDefault();
              const reason = String(new FormData(event.currentTarget).get("reason") ?? "");
              if ((await act({ intent: "aside", id, state, reason })).problem === null) setAsking(false);
            }}
          >
            <div className="grow">
              <Labelled label="Why it may stay">
                <Input name="reason" autoFocus maxLength={500} placeholder="Colleagues see this" />
              </Labelled>
            </div>
            <Button type="submit" busy={busy}>
              Set aside
            </Button>
            <Button kind="quiet" onClick={() => setAsking(false)}>
              Leave it
            </Button>
          </form>
        )}
      </div>
      {block && (
        <div className="max-sm:hidden">
          <TruePicture
            title="Where it is"
            src={`/campaigns/${campaign}/preflight/look?block=${encodeURIComponent(block)}${as === null ? "" : `&reader=${as}`}&at=${state}`}
            width={400}
            shown={176}
            height={88}
          />
        </div>
      )}
    </article>
  );
}
