import { useFetcher } from "react-router";
import { Button } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { counted, timeWords } from "../ui/time";

/** What was deleted lately, to be brought back. */
export function BinDialog({
  open,
  onClose,
  bin,
  now,
  days,
}: {
  days: number;
  open: boolean;
  onClose(): void;
  bin: readonly { id: string; name: string; deletedAt: string }[];
  now: number;
}) {
  const fetcher = useFetcher();
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Bin"
      about={`Deleted campaigns stay here for ${days} days. Then drafts are thrown away for good.`}
    >
      <ul className="max-h-[50vh] divide-y overflow-y-auto" data-testid="bin">
        {bin.map(({ id, name, deletedAt }) => (
          <li key={id} className="flex items-center gap-3 py-2">
            <div className="min-w-0 grow">
              <p className="truncate font-semibold">{name}</p>
              <p className="text-ink-soft">
                Deleted {timeWords(deletedAt, now)}, here for{" "}
                {counted(
                  Math.max(1, days - Math.floor((now - Date.parse(deletedAt)) / 86_400_000)),
                  "more day",
                )}
              </p>
            </div>
            <Button
              aria-label={`Bring back “${name}”`}
              busy={fetcher.state !== "idle"}
              onClick={() =>
                void fetcher.submit({ intent: "restore", id }, { method: "post", action: "/campaigns" })
              }
            >
              Bring back
            </Button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
