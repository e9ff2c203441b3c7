import { useState } from "react";
import { Button } from "../ui/button";
import { Problem } from "../ui/form";
import { useAsk } from "./ask";

/** What is sealed cannot be opened here: what to do, and how to go on without it. */
export function Sealed({ trouble }: { trouble: string }) {
  const { ask, busy } = useAsk();
  const [asking, setAsking] = useState(false);
  return (
    <section className="card space-y-3 p-5" aria-label="What is sealed">
      <Problem>{trouble}</Problem>
      {asking ? (
        <div className="flex flex-wrap items-center gap-3">
          <span>
            The password of the relay and all signing keys are gone then, and messages they signed cannot be
            shown as they were sent.
          </span>
          <Button kind="danger" busy={busy} onClick={() => ask({ intent: "give-up-sealed" })}>
            Give it up for good
          </Button>
          <Button onClick={() => setAsking(false)}>Keep it</Button>
        </div>
      ) : (
        <Button onClick={() => setAsking(true)}>Give up what is sealed…</Button>
      )}
    </section>
  );
}
