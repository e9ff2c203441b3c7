import {
  createContext,
  lazy,
  type ReactNode,
  Suspense,
  useCallback,
  useContext,
  useEffect,
  useRef,
  useState,
} from "react";
import type { FindGroup } from "./findable";

interface Find {
  open(): void;
  /** Adds what a screen knows to what can be found, for as long as it is there. */
  offer(groups: () => readonly FindGroup[]): () => void;
}

const Context = createContext<Find>({ open: () => undefined, offer: () => () => undefined });

export function useFind(): Find {
  return useContext(Context);
}

const FindDialog = lazy(() => import("./find-dialog"));

/** `Ctrl + K` finds campaigns, pages, and whatever the screen offers. */
export function FindAnything({ children }: { children: ReactNode }) {
  const offered = useRef(new Set<() => readonly FindGroup[]>());
  const [open, setOpen] = useState(false);
  const show = useCallback(() => setOpen(true), []);
  const offer = useCallback((groups: () => readonly FindGroup[]) => {
    offered.current.add(groups);
    return () => void offered.current.delete(groups);
  }, []);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (
        (event.ctrlKey || event.metaKey) &&
        !event.shiftKey &&
        event.key.toLowerCase() === "k" &&
        !event.defaultPrevented
      ) {
        event.preventDefault();
        setOpen((now) => !now);
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  const [find] = useState<Find>(() => ({ open: show, offer }));
  return (
    <Context.Provider value={find}>
      {children}
      {open && (
        <Suspense fallback={null}>
          <FindDialog
            groups={[...offered.current].flatMap((groups) => groups())}
            onClose={() => setOpen(false)}
          />
        </Suspense>
      )}
    </Context.Provider>
  );
}
