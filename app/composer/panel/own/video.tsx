import { useState } from "react";
import type { VideoBlock } from "~/core/blocks";
import { itemTag } from "~/core/email";
import type { Item } from "~/core/items";
import { takeFromAddress } from "../../../pictures/upload";
import { tell } from "../../../requests";
import { Button } from "../../../ui/button";
import { Problem } from "../../../ui/form";
import { useComposerStore } from "../../state/store";
import { useSet } from "../lines";
import { Finder } from "./finder";

/** What a film is taken from: one of a feed, or the still from its own page. */
export const VideoFilm = ({ block }: { block: VideoBlock }) => (
  <>
    <TakeFilm block={block} />
    <TakeStill block={block} />
  </>
);

/** A film of a feed: the block leads to it, shows its picture, and is called as it is. */
function TakeFilm({ block }: { block: VideoBlock }) {
  const set = useSet<VideoBlock>(block.id);
  const store = useComposerStore();
  const take = async (source: string, item: Item) => {
    const film = { href: itemTag(source, item, "film"), alt: item.title };
    // The play mark is drawn on pictures of the library alone; one that cannot be taken over stays where it is.
    const still = item.picture ? await takeFromAddress(item.picture).catch(() => null) : null;
    if (still) store.setState({ pictures: [still, ...store.getState().pictures] });
    const shown = still
      ? { src: still.path, natural: { width: still.width, height: still.height } }
      : { src: item.picture ?? "", natural: item.size };
    set({ ...film, ...(shown.src !== "" && shown) }, "Taking a film");
  };
  return (
    <Finder
      label="A film of your feeds"
      deed="Take"
      films
      onFound={(source, item) => void take(source, item)}
    />
  );
}

/** Takes the still from the page of the film. */
function TakeStill({ block }: { block: VideoBlock }) {
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
