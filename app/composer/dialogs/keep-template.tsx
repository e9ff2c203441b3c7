import { useState } from "react";
import { useNavigate } from "react-router";
import { type Taken, tell } from "../../requests";
import { FactsFields } from "../../templates/facts-fields";
import { Dialog, DialogForm } from "../../ui/dialog";
import { useNotify } from "../../ui/notices";
import { useComposer, useComposerStore } from "../state/store";

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
    const said = Object.fromEntries(form) as Omit<Taken<"/templates/keep">, "campaign" | "email">;
    const answer = await tell("/templates/keep", { ...said, campaign: facts.campaign, email });
    setBusy(false);
    setProblem(answer.problem);
    if (answer.problem !== null) return;
    const { id } = answer.result;
    set({ dialog: null });
    notify({
      text: `“${said.name}” is a template now.`,
      action: { label: "Show it", run: () => void navigate(`/templates?template=${id}`) },
    });
  };
  return (
    <Dialog
      open
      onClose={() => set({ dialog: null })}
      title="Keep as a template"
      about="Words, pictures and looks as they stand. What you change in the template later is offered to this campaign."
    >
      <DialogForm
        submit="Keep the template"
        disabled={busy}
        problem={problem}
        onSubmit={(form) => void keep(form)}
      >
        <FactsFields />
      </DialogForm>
    </Dialog>
  );
}
