import { PanelLeftClose, PanelLeftOpen, PanelRightClose, PanelRightOpen } from "lucide-react";
import { type ReactNode, useEffect } from "react";
import { IconButton } from "../../ui/button";
import { Choice } from "../../ui/form";
import { type ComposerState, useComposer, useComposerStore } from "../state/store";

type SideName = "shelf" | "panel";

const NAMES: Record<SideName, string> = { shelf: "shelf", panel: "selection" };

/** One side of the table: folded, it leaves a strip with the button that brings it back. */
export function Side({
  side,
  folded,
  pane,
  children,
}: {
  side: SideName;
  folded: boolean;
  pane: ComposerState["pane"];
  children: ReactNode;
}) {
  const set = useComposer((state) => state.set);
  const both = useComposer((state) => state.folded);
  const fold = (on: boolean) => set({ folded: { ...both, [side]: on } });
  const [Open, Close] =
    side === "shelf" ? [PanelLeftOpen, PanelLeftClose] : [PanelRightOpen, PanelRightClose];
  const keys = side === "shelf" ? "[" : "]";
  const small = pane === side ? "max-sm:flex max-sm:grow max-sm:w-full" : "max-sm:hidden";
  if (folded && pane !== side)
    return (
      <div
        className={`w-10 shrink-0 bg-paper pt-1.5 text-center max-sm:hidden ${side === "shelf" ? "border-r" : "border-l"}`}
      >
        <IconButton icon={Open} label={`Unfold the ${NAMES[side]}`} keys={keys} onClick={() => fold(false)} />
      </div>
    );
  return (
    <div className={`relative flex shrink-0 ${small}`}>
      {children}
      <IconButton
        icon={Close}
        label={`Fold the ${NAMES[side]}`}
        keys={keys}
        className="absolute! top-1.5 right-1.5 size-7! bg-paper max-sm:hidden"
        onClick={() => fold(true)}
      />
    </div>
  );
}

/** Where there is room for one part only, which one it is. */
export function PaneChoice() {
  const pane = useComposer((state) => state.pane);
  const set = useComposer((state) => state.set);
  return (
    <div className="border-t bg-paper p-1.5 sm:hidden">
      <Choice
        label="What is in view"
        value={pane}
        onChange={(next) => set({ pane: next })}
        options={[
          { value: "shelf", label: "Add" },
          { value: "email", label: "Email" },
          { value: "panel", label: "Change" },
        ]}
      />
    </div>
  );
}

/** So wide a window has room for the email and both sides, or for the phone beside the desktop. */
const ROOM_FOR_BOTH_SIDES = 1200;
const ROOM_FOR_BOTH_DEVICES = 1600;

/** Sides give way by themselves where there is no room for them, and come back with it. */
export function useRoom(): void {
  const store = useComposerStore();
  useEffect(() => {
    const narrow = window.matchMedia(`(max-width: ${ROOM_FOR_BOTH_SIDES - 1}px)`);
    const wide = window.matchMedia(`(min-width: ${ROOM_FOR_BOTH_DEVICES}px)`);
    const small = window.matchMedia("(max-width: 639px)");
    const adapt = () => {
      const { folded, both, set } = store.getState();
      if (folded.shelf !== narrow.matches) set({ folded: { ...folded, shelf: narrow.matches } });
      if (both && !wide.matches) set({ both: false });
      if (small.matches) set({ width: "phone" });
    };
    adapt();
    narrow.addEventListener("change", adapt);
    wide.addEventListener("change", adapt);
    return () => {
      narrow.removeEventListener("change", adapt);
      wide.removeEventListener("change", adapt);
    };
  }, [store]);
}
