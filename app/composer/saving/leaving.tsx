import { useEffect, useState } from "react";
import { useBlocker } from "react-router";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { useComposer } from "../state/store";
import type { Autosave } from "./autosave";

/** Leaving waits until everything is saved; when that cannot be, it asks. */
export function Leaving({ autosave }: { autosave: Autosave | null }) {
  const saving = useComposer((state) => state.saving);
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      autosave !== null && currentLocation.pathname !== nextLocation.pathname && !autosave.clean,
  );
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    if (blocker.state !== "blocked" || !autosave) return;
    let open = true;
    setFailed(false);
    void autosave.flush().then((saved) => {
      if (!open) return;
      if (saved) blocker.proceed();
      else setFailed(true);
    });
    return () => {
      open = false;
    };
  }, [blocker, autosave]);
  if (blocker.state !== "blocked") return null;
  if (!failed)
    return (
      <p
        role="status"
        className="fixed top-14 left-1/2 z-50 -translate-x-1/2 rounded-lg bg-ink px-4 py-2 text-white shadow-lg"
      >
        Saving before you go on…
      </p>
    );
  const kept = !saving.unkept;
  return (
    <Dialog
      open
      onClose={() => blocker.reset()}
      title="Not everything is saved"
      about={
        saving.state === "refused"
          ? `The server does not take it: ${saving.why}`
          : `The server does not answer. ${kept ? "Your changes are kept in this browser and saved when it is back." : "This browser has no room to keep your changes: if you leave, they are lost."}`
      }
    >
      <div className="flex justify-end gap-2">
        <Button onClick={() => blocker.proceed()}>
          {kept ? "Leave; they are kept here" : "Leave and lose them"}
        </Button>
        <Button kind="primary" onClick={() => blocker.reset()}>
          Stay
        </Button>
      </div>
    </Dialog>
  );
}
