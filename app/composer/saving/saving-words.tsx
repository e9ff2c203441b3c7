import { CircleHelp, Users } from "lucide-react";
import { Button } from "../../ui/button";
import { counted, timeWords } from "../../ui/time";
import { useComposer } from "../state/store";

/** Whether the design is saved, whether others have it open, and what is to be decided. */
export function SavingWords() {
  const saving = useComposer((state) => state.saving);
  const others = useComposer((state) => state.others);
  const questions = useComposer((state) => state.questions.length);
  const set = useComposer((state) => state.set);
  const lock = useComposer((state) => state.lock);
  const words = {
    saved: lock ? "" : `Saved ${timeWords(saving.at, Date.now())}`,
    waiting: "Saving…",
    saving: "Saving…",
    away: saving.unkept ? "Server away, and no room here: keep this window open" : "Server away; kept here",
    refused: "Not saved",
  }[saving.state];
  const bad = saving.state === "away" || saving.state === "refused";
  return (
    <>
      {questions > 0 && (
        <Button onClick={() => set({ dialog: "questions" })}>
          <CircleHelp className="size-4 text-amber" aria-hidden /> {counted(questions, "question")}
        </Button>
      )}
      {others > 0 && (
        <span
          className="flex items-center gap-1 text-ink-soft"
          data-testid="others"
          title="What is saved there comes in here by itself, and the other way round."
        >
          <Users className="size-4" aria-hidden />{" "}
          <span className="max-sm:sr-only">Open in {counted(others, "other window")}</span>
        </span>
      )}
      <span
        role="status"
        data-testid="saving"
        title={saving.why}
        className={bad ? "max-w-64 truncate font-medium text-amber" : "text-ink-soft"}
      >
        {saving.state === "refused" && saving.why ? `Not saved: ${saving.why}` : words}
      </span>
    </>
  );
}
