import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useId,
  useRef,
  useState,
} from "react";
import { useBlocker } from "react-router";
import { Button } from "./button";
import { Dialog } from "./dialog";

const Unsaved = createContext<(id: string, on: boolean) => void>(() => undefined);

/** Asks before a page is left on which something was written and not saved. */
export function UnsavedGuard({ children }: { children: ReactNode }) {
  const [guarded, setGuarded] = useState(false);
  // Known at once, before anything is drawn anew: whoever saves and goes on in one breath is not asked.
  const unsaved = useRef(new Set<string>());
  const tell = useCallback((id: string, on: boolean) => {
    if (on) unsaved.current.add(id);
    else unsaved.current.delete(id);
    setGuarded(unsaved.current.size > 0);
  }, []);
  const holds = useCallback(() => unsaved.current.size > 0, []);
  return (
    <Unsaved.Provider value={tell}>
      {children}
      {guarded && <Guard holds={holds} />}
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

function Guard({ holds }: { holds(): boolean }) {
  const blocker = useBlocker(
    ({ currentLocation: here, nextLocation: next }) =>
      holds() && (here.pathname !== next.pathname || here.search !== next.search),
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
      {/* The first has the focus. */}
      <div className="flex flex-row-reverse gap-2">
        <Button kind="primary" onClick={() => blocker.reset()}>
          Stay
        </Button>
        <Button onClick={() => blocker.proceed()}>Leave and lose it</Button>
      </div>
    </Dialog>
  );
}
