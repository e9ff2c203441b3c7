import { useState } from "react";
import { tell } from "../requests";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Area, Labelled, Problem } from "../ui/form";

const DAYS = ["3", "7", "14", "30"] as const;
type Days = (typeof DAYS)[number];

/** Asks colleagues, or anybody, to look the campaign over. */
export function AskForm({ campaign, onAsked }: { campaign: string; onAsked(): void }) {
  const [who, setWho] = useState("");
  const [note, setNote] = useState("");
  const [days, setDays] = useState<Days>("7");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [asked, setAsked] = useState<readonly string[]>([]);
  return (
    <form
      className="space-y-3"
      onSubmit={async (event) => {
        event.preventDefault();
        if (busy) return;
        setBusy(true);
        const answer = await tell(
          "/campaigns/:campaign/reviewers",
          { intent: "ask", who, note, days: Number(days) },
          { at: { campaign } },
        );
        setBusy(false);
        setProblem(answer.problem);
        if (answer.result) {
          setAsked(answer.result);
          setWho("");
        }
        onAsked();
      }}
    >
      <Labelled
        label="Who looks it over"
        hint="Addresses are sent a link of their own. A name alone gets a link for you to pass on."
      >
        <Area
          rows={2}
          value={who}
          placeholder="Ida Renner <ida@organisation.example>"
          onChange={(event) => setWho(event.target.value)}
        />
      </Labelled>
      <Labelled label="Note">
        <Area rows={2} value={note} maxLength={2000} onChange={(event) => setNote(event.target.value)} />
      </Labelled>
      <Choose<Days>
        label="How long the link holds"
        value={days}
        onChange={setDays}
        options={DAYS.map((value) => ({ value, label: `The link holds ${value} days` }))}
      />
      <p className="text-xs text-ink-soft">
        Whoever has a link sees every edition as one of its readers gets it, with their data.
      </p>
      {problem && <Problem>{problem}</Problem>}
      {asked.length > 0 && !problem && (
        <p role="status" className="rounded-md bg-green-wash px-3 py-2 break-words text-green">
          Asked: {asked.join(", ")}.
        </p>
      )}
      <Button type="submit" kind="primary" busy={busy}>
        Ask for a review
      </Button>
    </form>
  );
}
