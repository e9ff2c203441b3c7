import { useEffect, useMemo, useState } from "react";
import { type Comparison, compareEmails, mergeEmails } from "~/core/compose";
import { Button } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Choice } from "../ui/form";
import { counted, timeWords } from "../ui/time";
import { settleConflict } from "./autosave";
import { useComposer, useComposerStore } from "./store";
import { DifferenceList } from "./version-view";

/** Two windows changed the same draft: what each changed, and how to go on with both. */
export function ConflictDialog() {
  const store = useComposerStore();
  const saving = useComposer((state) => state.saving);
  const email = useComposer((state) => state.email);
  const [hidden, setHidden] = useState(false);
  const [prefer, setPrefer] = useState<"mine" | "theirs">("mine");
  const conflict = saving.state === "conflict" ? saving : null;
  useEffect(() => {
    if (!conflict) setHidden(false);
  }, [conflict]);
  const found = useMemo(() => {
    if (!conflict?.base) return null;
    const { base, other } = conflict;
    return {
      mine: compareEmails(base, email),
      theirs: compareEmails(base, other),
      clashes: mergeEmails(base, email, other, "mine").clashes.length,
    };
  }, [conflict, email]);
  return (
    <Dialog
      open={conflict !== null && !hidden}
      onClose={() => setHidden(true)}
      title="This design was changed elsewhere"
      about={
        conflict
          ? `Another window saved it ${timeWords(conflict.at, Date.now())}. Nothing was overwritten, and nothing of yours is lost.`
          : undefined
      }
      wide
    >
      {found && (
        <div className="mb-4 grid grid-cols-2 gap-6">
          <Changes title="Changed here" comparison={found.mine} />
          <Changes title="Changed elsewhere" comparison={found.theirs} />
        </div>
      )}
      {found && found.clashes > 0 && (
        <div className="mb-4 flex items-center gap-3">
          <span>{counted(found.clashes, "part was", "parts were")} changed on both sides. There, take</span>
          <Choice
            label="Where both changed the same, take"
            value={prefer}
            onChange={setPrefer}
            options={[
              { value: "mine", label: "mine" },
              { value: "theirs", label: "the other’s" },
            ]}
          />
        </div>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={() => settleConflict(store, "theirs", prefer)}>Take only the other’s</Button>
        <Button kind={found ? "plain" : "primary"} onClick={() => settleConflict(store, "mine", prefer)}>
          Keep only mine
        </Button>
        {found && (
          <Button kind="primary" onClick={() => settleConflict(store, "both", prefer)}>
            Keep both
          </Button>
        )}
      </div>
    </Dialog>
  );
}

function Changes({ title, comparison }: { title: string; comparison: Comparison }) {
  return (
    <section>
      <h3 className="mb-1 font-semibold">{title}</h3>
      <DifferenceList comparison={comparison} />
    </section>
  );
}
