import { Trash2 } from "lucide-react";
import { useState } from "react";
import type { Use } from "~/server/mentions";
import type { Removable } from "~/server/workspace/removals";
import { ask, tell } from "../requests";
import { Button, IconButton } from "./button";
import { Dialog } from "./dialog";
import { useNotify } from "./notices";
import { Uses } from "./uses";

/**
 * Removes a source, a segment or a picture. It says first what uses it and what that comes to, and can be taken back
 * afterwards.
 */
export function RemoveButton({
  kind,
  id,
  name,
  consequence,
  className,
  onChange,
}: {
  kind: Removable;
  id: string;
  name: string;
  /** What becomes of what uses it. */
  consequence: string;
  className?: string;
  /** Called after it was removed or brought back. */
  onChange(removed: boolean): void;
}) {
  const notify = useNotify();
  const [uses, setUses] = useState<Use[] | null>(null);
  const set = async (removed: boolean) => {
    setUses(null);
    const { problem } = await tell("/removals/:kind/:id", { removed }, { at: { kind, id } });
    if (problem) {
      notify({ text: problem, bad: true });
      return;
    }
    onChange(removed);
    notify(
      removed
        ? { text: `“${name}” was removed.`, action: { label: "Undo", run: () => void set(false) } }
        : { text: `“${name}” is back.` },
    );
  };
  const look = async () => {
    const { problem, result } = await ask("/removals/:kind/:id", { at: { kind, id } });
    setUses(result);
    if (problem !== null) notify({ text: problem, bad: true });
  };
  return (
    <>
      <IconButton
        icon={Trash2}
        label={`Remove “${name}”`}
        className={className}
        onClick={() => void look()}
      />
      <RemoveDialog
        open={uses !== null}
        name={name}
        uses={uses ?? []}
        consequence={consequence}
        onKeep={() => setUses(null)}
        onRemove={() => void set(true)}
      />
    </>
  );
}

/** Asks before something is removed: what uses it, and what that comes to. */
export function RemoveDialog({
  open,
  name,
  uses,
  consequence,
  onKeep,
  onRemove,
}: {
  open: boolean;
  name: string;
  uses: readonly Use[];
  /** What becomes of what uses it. */
  consequence: string;
  onKeep(): void;
  onRemove(): void;
}) {
  return (
    <Dialog open={open} onClose={onKeep} title={`Remove “${name}”?`}>
      <div className="space-y-2" data-testid="uses">
        <Uses uses={uses} />
        {uses.length > 0 && <p className="text-amber">{consequence}</p>}
      </div>
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onKeep}>Keep it</Button>
        <Button kind="primary" onClick={onRemove}>
          Remove it
        </Button>
      </div>
    </Dialog>
  );
}
