import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { counted } from "../../ui/time";
import { useCanvas } from "../canvas/context";
import { aboutWords, takeMine, valueWords } from "../saving/questions";
import type { Question } from "../state/saving";
import { newId, useComposer, useComposerStore } from "../state/store";

const SIDES: Record<Question["reason"], { mine: string; theirs: string }> = {
  changed: { mine: "Here", theirs: "In the other window" },
  gone: { mine: "You changed it", theirs: "The other window deleted it" },
  kept: { mine: "You deleted it", theirs: "The other window changed it" },
  moved: { mine: "You moved it", theirs: "The other window moved it elsewhere" },
};
const TAKE: Record<Question["reason"], { mine: string; theirs: string }> = {
  changed: { mine: "Take mine", theirs: "Keep the other’s" },
  gone: { mine: "Put it back", theirs: "Leave it out" },
  kept: { mine: "Delete it", theirs: "Keep it" },
  moved: { mine: "Move it where I had it", theirs: "Leave it there" },
};

/** What two windows changed in ways that contradict, one by one. Everything else has come together already. */
export default function QuestionsDialog() {
  const store = useComposerStore();
  const canvas = useCanvas();
  const questions = useComposer((state) => state.questions);
  const email = useComposer((state) => state.email);
  const settle = (question: Question, mine: boolean) => {
    const { apply, set, edit } = store.getState();
    edit(null);
    if (mine) apply(takeMine(question, newId), "Taking mine");
    const left = store.getState().questions.filter(({ key }) => key !== question.key);
    set({ questions: left, ...(left.length === 0 && { dialog: null }) });
  };
  return (
    <Dialog
      open
      onClose={() => store.getState().set({ dialog: null })}
      title={`${counted(questions.length, "question")} about changes made in two windows`}
      about="Everything that fits has been brought together. The email now has what the other window did; decide for each of these, now or later."
      wide
    >
      <ul className="max-h-[60vh] space-y-3 overflow-y-auto" data-testid="questions">
        {questions.map((question) => (
          <li key={question.key} className="card p-3">
            <p className="mb-2 flex items-baseline gap-2">
              <span className="font-semibold">{aboutWords(question, email)}</span>
              {question.path !== "" && question.reason === "changed" && (
                <span className="text-xs text-ink-soft">{question.path.replaceAll("/", " › ")}</span>
              )}
              {question.id && canvas.drawing?.element(question.id) && (
                <button
                  type="button"
                  className="ml-auto text-mulberry underline"
                  onClick={() => {
                    store.getState().set({ dialog: null });
                    store.getState().select(question.id);
                    canvas.reveal(question.id as string);
                  }}
                >
                  Show it
                </button>
              )}
            </p>
            <div className="grid grid-cols-2 gap-3">
              {(["mine", "theirs"] as const).map((side) => (
                <div key={side} className="flex flex-col gap-2 rounded-md bg-table/60 p-2.5">
                  <p className="text-xs text-ink-soft">{SIDES[question.reason][side]}</p>
                  {question.reason === "changed" && (
                    <p className="grow break-words">{valueWords(question[side])}</p>
                  )}
                  <Button onClick={() => settle(question, side === "mine")}>
                    {TAKE[question.reason][side]}
                  </Button>
                </div>
              ))}
            </div>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
