import { useState } from "react";
import type { VideoBlock } from "~/core/blocks";
import { tell } from "../../../requests";
import { Button } from "../../../ui/button";
import { Problem } from "../../../ui/form";
import { useComposerStore } from "../../state/store";
import { useSet } from "../lines";

/** Takes the still from the page of the film. */
export function TakeStill({ block }: { block: VideoBlock }) {
  const set = useSet<VideoBlock>(block.id);
  const store = useComposerStore();
  const [state, setState] = useState<{ busy: boolean; problem: string | null }>({
    busy: false,
    problem: null,
  });
  const take = async () => {
    setState({ busy: true, problem: null });
    const { problem, result } = await tell("/stills", { address: block.href });
    if (result) {
      const { path, width, height, alt } = result;
      store.setState({ pictures: [result, ...store.getState().pictures] });
      set({ src: path, natural: { width, height }, alt: block.alt || alt }, "Taking the still");
    }
    setState({ busy: false, problem });
  };
  return (
    <>
      <Button
        className="w-full"
        disabled={state.busy || !/^https?:\/\//i.test(block.href)}
        onClick={() => void take()}
      >
        {state.busy ? "Asking its page…" : "Take the still from there"}
      </Button>
      {state.problem && <Problem mild>{state.problem}</Problem>}
    </>
  );
}
