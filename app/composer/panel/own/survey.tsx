import { type SurveyBlock, scaleOf } from "~/core/blocks";
import { ask } from "../../../requests";
import { useAnswer } from "../../../ui/use-answer";
import { Part } from "../../controls/part";
import { useComposer } from "../../state/store";

/** What readers have answered so far. */
export function SurveyAnswers({ block }: { block: SurveyBlock }) {
  const campaign = useComposer((state) => state.facts.campaign);
  const { result } = useAnswer(`${campaign} ${block.id}`, (signal) =>
    ask("/campaigns/:campaign/answers", { at: { campaign }, signal }),
  );
  const counts = result && (result[block.id] ?? []);
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
