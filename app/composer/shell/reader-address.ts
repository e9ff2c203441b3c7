import { useEffect } from "react";
import { useSearchParams } from "react-router";
import { findNode } from "~/core/email";
import { useCanvas } from "../canvas/context";
import { useActions } from "../state/actions";
import { useComposer, useComposerStore } from "../state/store";

/** Keeps the reader one composes as in the address, so that the next pages show the same one. */
export function useReaderAddress(): void {
  const [params, setParams] = useSearchParams();
  const reader = useComposer((state) => state.reader.id);
  const shown = params.get("reader");
  useEffect(() => {
    if (reader > 0 && shown !== String(reader))
      setParams((before) => new URLSearchParams({ ...Object.fromEntries(before), reader: String(reader) }), {
        replace: true,
        preventScrollReset: true,
      });
  }, [reader, shown, setParams]);
}

/** Selects the part that the address asks for, as a page that found something in it does; as a reader who gets it. */
export function useAskedSelection(): void {
  const [params, setParams] = useSearchParams();
  const store = useComposerStore();
  const canvas = useCanvas();
  const actions = useActions();
  const asked = params.get("select");
  useEffect(() => {
    if (asked === null) return;
    if (findNode(store.getState().email, asked)) {
      if (canvas.drawing?.element(asked)) store.getState().select(asked);
      else void actions.showTo(asked);
      requestAnimationFrame(() => canvas.reveal(asked));
    }
    setParams(
      (before) => {
        const left = new URLSearchParams(before);
        left.delete("select");
        return left;
      },
      { replace: true, preventScrollReset: true },
    );
  }, [asked, store, canvas, actions, setParams]);
}
