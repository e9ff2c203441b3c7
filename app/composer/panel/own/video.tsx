import { useState } from "react";
import type { VideoBlock } from "~/core/blocks";
import { Button } from "../../../ui/button";
import { Problem } from "../../../ui/form";
import { type PictureFacts, useComposer, useComposerStore } from "../../store";
import { useSet } from "../lines";

/** Takes the still from the page of the film. */
export function TakeStill({ block }: { block: VideoBlock }) {
  const set = useSet<VideoBlock>(block.id);
  const store = useComposerStore();
  const _campaign = useComposer((state) => state.facts.campaign);
  const [state, setState] = useState<{ busy: boolean; problem: string | null }>({
    busy: false,
    problem: null,
  });
  const take = async () => {
    setState({ busy: true, problem: null });
    try {
      const body = new FormData();
      body.append("address", block.href);
      const response = await fetch("/stills", { method: "POST", body });
      const answer = (await response.json()) as { result: PictureFacts | null; problem: string | null };
      if (answer.result) {
        const { path, width, height, alt } = answer.result;
        store.setState({ pictures: [answer.result, ...store.getState().pictures] });
        set({ src: path, natural: { width, height }, alt: block.alt || alt }, "Taking the still");
      }
      setState({ busy: false, problem: answer.problem });
    } catch {
      setState({ busy: false, problem: "The server is not there. Try again when the connection is back." });
    }
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
