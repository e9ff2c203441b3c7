import { useEffect, useState } from "react";
import { type SurveyBlock, scaleOf } from "~/core/blocks";
import { Choice, Line } from "../../ui/form";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { FaceLines } from "./face";

type Counts = { answer: number; count: number }[];

export function SurveyControls({ block }: { block: SurveyBlock }) {
  const set = useSet(block.id);
  return (
    <>
      <Part title="Scale">
        <Line label="From">
          {() => (
            <Choice
              label="From"
              value={String(block.from)}
              onChange={(from) => set({ from: Number(from) })}
              options={[
                { value: "0", label: "0" },
                { value: "1", label: "1" },
              ]}
            />
          )}
        </Line>
        <NumberLine
          label="To"
          unit=""
          value={block.to}
          min={2}
          max={10}
          onChange={(to) => to !== undefined && set({ to })}
        />
      </Part>
      <Part title="Look">
        <FaceLines block={block} words="Numbers" />
      </Part>
      <Answers block={block} />
    </>
  );
}

/** What readers have answered so far. */
function Answers({ block }: { block: SurveyBlock }) {
  const campaign = useComposer((state) => state.facts.campaign);
  const [counts, setCounts] = useState<Counts | null>(null);
  useEffect(() => {
    const asking = new AbortController();
    fetch(`/campaigns/${campaign}/answers`, { signal: asking.signal })
      .then((response) => response.json())
      .then((all: Record<string, Counts>) => setCounts(all[block.id] ?? []))
      .catch(() => undefined);
    return () => asking.abort();
  }, [campaign, block.id]);
  const total = counts?.reduce((sum, it) => sum + it.count, 0) ?? 0;
  if (counts === null) return null;
  const most = Math.max(1, ...counts.map((it) => it.count));
  return (
    <Part title="Answers" tone="teal" aside={total > 0 && String(total)}>
      {total === 0 ? (
        <p className="text-ink-soft">None yet. Each reader’s last answer will count.</p>
      ) : (
        <ul className="space-y-1">
          {scaleOf(block).map((answer) => {
            const count = counts.find((it) => it.answer === answer)?.count ?? 0;
            return (
              <li key={answer} className="grid grid-cols-[20px_1fr_40px] items-center gap-2 tabular-nums">
                <span>{answer}</span>
                <span className="h-2 rounded-full bg-teal" style={{ width: `${(count / most) * 100}%` }} />
                <span className="text-right">{count}</span>
              </li>
            );
          })}
        </ul>
      )}
    </Part>
  );
}
