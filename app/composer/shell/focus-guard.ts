import { useEffect } from "react";
import { useCanvas } from "../canvas/context";

/** When what had the focus goes away, the canvas takes it: it never falls to the page, where keys would do anything. */
export function useFocusGuard(): void {
  const canvas = useCanvas();
  useEffect(() => {
    let frame = 0;
    let pressing = false;
    const look = () => {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => {
        const nowhere = document.activeElement === null || document.activeElement === document.body;
        if (nowhere && document.hasFocus() && !pressing && !document.querySelector("[role=dialog]"))
          canvas.focus(false);
      });
    };
    const down = () => {
      pressing = true;
    };
    const up = () => {
      pressing = false;
    };
    document.addEventListener("focusout", look);
    window.addEventListener("pointerdown", down, true);
    window.addEventListener("pointerup", up, true);
    return () => {
      cancelAnimationFrame(frame);
      document.removeEventListener("focusout", look);
      window.removeEventListener("pointerdown", down, true);
      window.removeEventListener("pointerup", up, true);
    };
  }, [canvas]);
}
