import { Lock as LockIcon } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useFetcher } from "react-router";
import type { Lock } from "~/server/campaigns/lock";
import { Button, buttonLook } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { useComposer } from "../state/store";

const WORDS: Record<Lock["state"], string> = {
  scheduled: "This design is scheduled",
  gathering: "This design is going out now",
  sending: "This design is going out now",
  paused: "This design is going out; the sending is paused",
  sent: "This design was sent",
};

/** Says that a design waits to go out, goes out or has gone, and what can be done about it. */
export function LockBar() {
  const lock = useComposer((state) => state.lock);
  const campaign = useComposer((state) => state.facts.campaign);
  const fetcher = useFetcher<{ problem: string | null }>();
  const set = useComposer((state) => state.set);
  const [asking, setAsking] = useState(false);
  useEffect(() => {
    // Only a successful taking back answers with no problem here: a copy leads away.
    if (fetcher.state === "idle" && fetcher.data?.problem === null) set({ lock: null });
  }, [fetcher.state, fetcher.data, set]);
  if (!lock) return null;
  const submit = (intent: string, action: string, more: Record<string, string> = {}) =>
    void fetcher.submit({ intent, ...more }, { method: "post", action });
  return (
    <div
      role="status"
      data-testid="lock"
      className="flex shrink-0 flex-wrap items-center gap-3 border-b bg-mulberry-wash px-4 py-2"
    >
      <LockIcon className="size-4 text-mulberry" aria-hidden />
      <p className="grow">
        <span className="font-semibold">
          {WORDS[lock.state]}
          {lock.when &&
            (lock.state === "sent"
              ? ` on ${lock.when}`
              : lock.state === "scheduled"
                ? ` for ${lock.when}`
                : "")}
          .
        </span>{" "}
        {lock.state === "scheduled"
          ? "To change it, take it back: then nothing goes out until it is scheduled again."
          : "What readers get stays as it is. A copy can be changed and sent."}
        {fetcher.data?.problem && <span className="block text-red">{fetcher.data.problem}</span>}
      </p>
      {lock.state === "scheduled" ? (
        <Button kind="primary" onClick={() => setAsking(true)}>
          Take back and change
        </Button>
      ) : (
        <Link className={buttonLook()} to={`/campaigns/${campaign}/send`}>
          Look at the sending
        </Link>
      )}
      <Button
        kind={lock.state === "scheduled" ? "plain" : "primary"}
        busy={fetcher.state !== "idle"}
        onClick={() => submit("copy", "/campaigns", { id: campaign, open: "yes" })}
      >
        Make a copy
      </Button>
      <Dialog
        open={asking}
        onClose={() => setAsking(false)}
        title="Take it back?"
        about={`It will not go out${lock.when ? ` ${lock.when}` : ""}. Schedule it again when it is ready.`}
      >
        <div className="flex justify-end gap-2">
          <Button onClick={() => setAsking(false)}>Leave it scheduled</Button>
          <Button
            kind="primary"
            onClick={() => {
              setAsking(false);
              submit("takeBack", `/campaigns/${campaign}/send`, { id: lock.dispatch });
            }}
          >
            Take it back
          </Button>
        </div>
      </Dialog>
    </div>
  );
}
