import { createContext, type ReactNode, useContext, useEffect, useId, useMemo, useState } from "react";
import { useBlocker } from "react-router";
import { Button } from "./button";
import { Dialog } from "./dialog";

const Unsaved = createContext<(id: string, on: boolean) => void>(() => undefined);

/** Asks before a page is left on which something was written and not saved. */
export function UnsavedGuard({ children }: { children: ReactNode }) {
  const [unsaved, setUnsaved] = useState<readonly string[]>([]);
  const tell = useMemo(
    () => (id: string, on: boolean) =>
      setUnsaved((before) =>
        before.includes(id) === on ? before : on ? [...before, id] : before.filter((one) => one !== id),
      ),
    [],
  );
  return (
    <Unsaved.Provider value={tell}>
      {children}
      {unsaved.length > 0 && <Guard />}
    </Unsaved.Provider>
  );
}

/** Says whether something on this page was written and not saved. */
export function useUnsaved(changed: boolean): void {
  const tell = useContext(Unsaved);
  const id = useId();
  useEffect(() => {
    tell(id, changed);
    return () => tell(id, false);
  }, [tell, id, changed]);
}

function Guard() {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      currentLocation.pathname !== nextLocation.pathname || currentLocation.search !== nextLocation.search,
  );
  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", leave);
    return () => window.removeEventListener("beforeunload", leave);
  }, []);
  if (blocker.state !== "blocked") return null;
  return (
    <Dialog
      open
      onClose={() => blocker.reset()}
      title="Leave without saving?"
      about="What you changed on this page is not saved yet. If you leave, it is lost."
    >
      <div className="flex justify-end gap-2">
        <Button onClick={() => blocker.proceed()}>Leave and lose it</Button>
        <Button kind="primary" autoFocus onClick={() => blocker.reset()}>
          Stay
        </Button>
      </div>
    </Dialog>
  );
}
