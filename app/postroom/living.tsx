import { useEffect, useState } from "react";
import { useFetcher, useRevalidator } from "react-router";
import { DEEDS, type DeedKind, type Life, type Living, PACES } from "~/core/sending";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Dialog } from "../ui/dialog";
import { Input, Labelled, Problem } from "../ui/form";
import { count } from "../ui/time";

const DID: Record<DeedKind, string> = {
  scan: "looked at ahead by a program",
  open: "opened",
  press: "links pressed",
  answer: "answered",
  leave: "left",
  complain: "called spam",
  return: "sent back",
};

/** So often what they did is asked for while it is looked at, in milliseconds. */
const LOOK = 1500;

/** How the readers of the postroom live: not at all, or by habits of their own, as fast as is wished. */
export function LivingReaders({
  living: { life, done, waiting },
  open,
  onClose,
}: {
  living: Living;
  open: boolean;
  onClose(): void;
}) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const { revalidate } = useRevalidator();
  const [pace, setPace] = useState(String(life?.pace ?? 1440));
  const [seed, setSeed] = useState(String(life?.seed ?? 7));
  const lives = life !== null;
  useEffect(() => {
    if (!open || !lives) return;
    const timer = setInterval(revalidate, LOOK);
    return () => clearInterval(timer);
  }, [open, lives, revalidate]);
  const live = (next: Life | null) =>
    fetcher.submit(JSON.stringify({ intent: "live", life: next }), {
      method: "post",
      action: "/postroom",
      encType: "application/json",
    });
  const busy = fetcher.state !== "idle";
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Readers"
      about="Let them live, and each does what they do with what comes from now on: some open and press at once, some late, some never; a few leave, answer, call it spam, or are gone. Chance decides, the same for the same number."
    >
      <div className="space-y-4">
        {lives && (
          <dl className="grid grid-cols-[1fr_auto] gap-y-1 tabular-nums" aria-label="What they did">
            {DEEDS.map((kind) => (
              <div key={kind} className="contents">
                <dt className="first-letter:uppercase">{DID[kind]}</dt>
                <dd className="pl-6 text-right font-semibold">{count(done[kind])}</dd>
              </div>
            ))}
            <dt className="border-t pt-1">Still to come</dt>
            <dd className="border-t pt-1 pl-6 text-right font-semibold">{count(waiting)}</dd>
          </dl>
        )}
        <form
          className="space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            live({ pace: Number(pace), seed: Math.round(Number(seed)) });
          }}
        >
          <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
            <Labelled label="How fast time goes">
              <Choose
                value={pace}
                options={PACES.map((one) => ({ value: String(one.pace), label: one.name }))}
                onChange={setPace}
              />
            </Labelled>
            <Labelled label="Chance" hint="Another number is other readers.">
              <Input inputMode="numeric" value={seed} onChange={(event) => setSeed(event.target.value)} />
            </Labelled>
          </div>
          {fetcher.data?.problem && !busy && <Problem>{fetcher.data.problem}</Problem>}
          <div className="flex justify-end gap-2">
            {lives && (
              <Button kind="quiet" busy={busy} onClick={() => live(null)}>
                Let them be
              </Button>
            )}
            <Button type="submit" kind="primary" busy={busy} disabled={!/^\d{1,6}$/.test(seed.trim())}>
              {lives ? "Start anew" : "Let them live"}
            </Button>
          </div>
        </form>
      </div>
    </Dialog>
  );
}
