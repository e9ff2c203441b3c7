import { useState } from "react";
import { momentWords } from "~/core/sending";
import type { Use } from "~/server/mentions";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Switch } from "../../ui/switch";
import { counted } from "../../ui/time";

/** What is changed by saving over a picture, in words. */
function changedWords(uses: readonly Use[]): string {
  const many = (kind: Use["kind"], one: string) => {
    const count = uses.filter((use) => use.kind === kind && !use.scheduled).length;
    return count === 0 ? [] : [counted(count, one)];
  };
  return [
    ...many("campaign", "draft"),
    ...many("template", "template"),
    ...many("clipping", "clipping"),
    ...many("lookup", "lookup"),
    ...(uses.some(({ kind }) => kind === "brand") ? ["the brand"] : []),
  ].join(", ");
}

/** Says what would show a picture that is saved over, before it is; what is scheduled only when it is asked for. */
export function SaveOver({
  uses,
  onClose,
  onCopy,
  onOver,
}: {
  uses: readonly Use[];
  onClose(): void;
  onCopy(): void;
  onOver(scheduled: readonly string[]): void;
}) {
  const [also, setAlso] = useState<readonly string[]>([]);
  const now = uses.filter(({ scheduled }) => !scheduled);
  const scheduled = uses.flatMap((use) => (use.scheduled ? [{ ...use, scheduled: use.scheduled }] : []));
  return (
    <Dialog
      open
      onClose={onClose}
      title="Save over it?"
      about={now.length > 0 ? `It changes ${changedWords(uses)}.` : "What is scheduled keeps it as it was."}
    >
      {now.length > 0 && (
        <ul className="mb-4 max-h-48 list-disc space-y-0.5 overflow-y-auto pl-5 text-ink-soft">
          {now.map(({ kind, id, name }) => (
            <li key={`${kind} ${id}`} className="break-words">
              {kind === "brand" ? "The brand" : name}
            </li>
          ))}
        </ul>
      )}
      {scheduled.map(({ id, name, scheduled: { at, zone } }) => (
        <Switch
          key={id}
          checked={also.includes(id)}
          onChange={(on) => setAlso(on ? [...also, id] : also.filter((one) => one !== id))}
        >
          Also in “{name}”, scheduled for {momentWords({ epoch: Date.parse(at), zone })}
        </Switch>
      ))}
      <div className="mt-5 flex flex-wrap justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button onClick={onCopy}>Save as a copy</Button>
        <Button kind="primary" onClick={() => onOver(also)}>
          {now.length + also.length > 0 ? "Save and change them" : "Save over it, not in these"}
        </Button>
      </div>
    </Dialog>
  );
}
