import { CircleAlert, CircleCheck } from "lucide-react";
import { Toast, Tooltip } from "radix-ui";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";

interface Notice {
  id: number;
  text: string;
  bad?: boolean;
  action?: { label: string; run(): void };
}

type Notify = (notice: Omit<Notice, "id">) => void;

const Context = createContext<Notify>(() => undefined);

/** Says something in passing, with at most one thing to do about it. */
export function useNotify(): Notify {
  return useContext(Context);
}

export function Notices({ children }: { children: ReactNode }) {
  const [notices, setNotices] = useState<Notice[]>([]);
  const notify = useCallback<Notify>((notice) => {
    setNotices((shown) => [...shown.slice(-2), { ...notice, id: Date.now() + Math.random() }]);
  }, []);
  const value = useMemo(() => notify, [notify]);
  return (
    <Tooltip.Provider delayDuration={350}>
      <Toast.Provider duration={9000} swipeDirection="right">
        <Context.Provider value={value}>{children}</Context.Provider>
        {notices.map((notice) => (
          <Toast.Root
            key={notice.id}
            onOpenChange={(open) =>
              !open && setNotices((shown) => shown.filter((other) => other.id !== notice.id))
            }
            className="flex items-start gap-2.5 rounded-lg bg-ink px-4 py-3 text-white shadow-lg"
          >
            {notice.bad ? (
              <CircleAlert className="mt-0.5 size-4 shrink-0 text-[#ffb4ab]" aria-label="Problem" />
            ) : (
              <CircleCheck className="mt-0.5 size-4 shrink-0 text-[#8fd9a8]" aria-label="Done" />
            )}
            <Toast.Description className="grow">{notice.text}</Toast.Description>
            {notice.action && (
              <Toast.Action altText={notice.action.label} asChild>
                <button
                  type="button"
                  className="font-semibold underline underline-offset-2"
                  onClick={notice.action.run}
                >
                  {notice.action.label}
                </button>
              </Toast.Action>
            )}
          </Toast.Root>
        ))}
        {/* What lives is not hidden by a dialog that is open; each notice announces itself. */}
        <Toast.Viewport
          aria-live="off"
          className="fixed right-4 bottom-14 z-50 flex w-96 max-w-[calc(100vw-2rem)] flex-col gap-2 outline-none"
        />
      </Toast.Provider>
    </Tooltip.Provider>
  );
}
