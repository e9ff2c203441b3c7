import { Trash2 } from "lucide-react";
import { type ReactNode, useState } from "react";
import type { Removable, Uses } from "~/server/workspace/removals";
import { Button, IconButton } from "./button";
import { Dialog } from "./dialog";
import { useNotify } from "./notices";
import { counted } from "./time";

async function send(kind: Removable, id: string, removed: boolean): Promise<string | null> {
  try {
    const response = await fetch(`/removals/${kind}/${id}`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ removed }),
    });
    return ((await response.json()) as { problem: string | null }).problem;
  } catch {
    return "The server does not answer. Nothing was changed.";
  }
}

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
  const [uses, setUses] = useState<Uses | null>(null);
  const set = async (removed: boolean) => {
    setUses(null);
    const problem = await send(kind, id, removed);
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
  const ask = async () => {
    try {
      setUses((await (await fetch(`/removals/${kind}/${id}`)).json()) as Uses);
    } catch {
      notify({ text: "The server does not answer. Nothing was changed.", bad: true });
    }
  };
  const used = uses ? uses.campaigns.length + uses.segments.length : 0;
  return (
    <>
      <IconButton label={`Remove “${name}”`} className={className} onClick={() => void ask()}>
        <Trash2 className="size-4" />
      </IconButton>
      <RemoveDialog
        open={uses !== null}
        name={name}
        consequence={used > 0 ? consequence : null}
        onKeep={() => setUses(null)}
        onRemove={() => void set(true)}
      >
        {used === 0 && <p>Nothing uses it.</p>}
        <Names
          title={counted(uses?.campaigns.length ?? 0, "campaign uses it", "campaigns use it")}
          names={uses?.campaigns ?? []}
        />
        <Names
          title={counted(uses?.segments.length ?? 0, "segment asks for it", "segments ask for it")}
          names={uses?.segments ?? []}
        />
      </RemoveDialog>
    </>
  );
}

/** Asks before something is removed: what uses it, and what that comes to. */
export function RemoveDialog({
  open,
  name,
  consequence,
  children,
  onKeep,
  onRemove,
}: {
  open: boolean;
  name: string;
  /** What becomes of what uses it; null where nothing does. */
  consequence: string | null;
  /** What uses it. */
  children: ReactNode;
  onKeep(): void;
  onRemove(): void;
}) {
  return (
    <Dialog open={open} onClose={onKeep} title={`Remove “${name}”?`}>
      <div className="space-y-2" data-testid="uses">
        {children}
        {consequence !== null && <p className="text-amber">{consequence}</p>}
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

/** How many use it, and what the first of them are called. */
export function Names({ title, names }: { title: string; names: readonly string[] }): ReactNode {
  if (names.length === 0) return null;
  const shown = names.slice(0, 6).map((name) => `“${name}”`);
  return (
    <p>
      {title}: {shown.join(", ")}
      {names.length > shown.length && ` and ${names.length - shown.length} more`}.
    </p>
  );
}
