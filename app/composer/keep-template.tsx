import { useState } from "react";
import { useNavigate } from "react-router";
import { FactsFields } from "../templates/facts-fields";
import { Button } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { useComposer, useComposerStore } from "./store";

/** Keeps the design as it stands as a template to start from. */
export default function KeepTemplateDialog() {
  const store = useComposerStore();
  const set = useComposer((state) => state.set);
  const notify = useNotify();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const keep = async (form: FormData) => {
    setBusy(true);
    setProblem(null);
    const { email, facts } = store.getState();
    try {
      const response = await fetch("/templates/keep", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ ...Object.fromEntries(form), campaign: facts.campaign, email }),
      });
      const answer = (await response.json()) as { problem: string | null; result: { id: string } | null };
      if (answer.result) {
        const { id } = answer.result;
        set({ dialog: null });
        notify({
          text: `“${form.get("name")}” is a template now.`,
          action: { label: "Show it", run: () => void navigate(`/templates?template=${id}`) },
        });
        return;
      }
      setProblem(answer.problem ?? "It could not be kept.");
    } catch {
      setProblem("Septima cannot be reached. Try again when it is back.");
    }
    setBusy(false);
  };
  return (
    <Dialog
      open
      onClose={() => set({ dialog: null })}
      title="Keep as a template"
      about="Words, pictures and looks as they stand. What you change in the template later is offered to this campaign."
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          void keep(new FormData(event.currentTarget));
        }}
      >
        <FactsFields />
        {problem && <Problem>{problem}</Problem>}
        <div className="flex justify-end">
          <Button type="submit" kind="primary" disabled={busy}>
            Keep the template
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
