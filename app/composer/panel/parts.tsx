import { RotateCcw } from "lucide-react";
import { blockType, shows } from "~/core/blocks";
import { differsFromShelf, fromShelf, likeBlocks, spreadLook } from "~/core/compose";
import type { Block } from "~/core/email";
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { counted } from "../../ui/time";
import { Part } from "../controls/part";
import { useComposer, useComposerStore } from "../state/store";
import { useSet } from "./lines";

/** Switches the parts of a block on and off. */
export function BlockParts({ block }: { block: Block }) {
  const set = useSet(block.id);
  const parts = blockType(block.type)?.parts ?? [];
  if (parts.length === 0) return null;
  return (
    <Part title="Parts">
      <div className="flex flex-wrap gap-1.5">
        {parts.map(({ key, label }) => {
          const on = shows(block, key);
          const off = on ? [...(block.off ?? []), key] : (block.off ?? []).filter((one) => one !== key);
          return (
            <button
              key={key}
              type="button"
              aria-pressed={on}
              onClick={() =>
                set(
                  { off: off.length > 0 ? off : undefined },
                  on ? "Switching a part off" : "Switching a part on",
                )
              }
              className="toggle"
            >
              {label}
            </button>
          );
        })}
      </div>
    </Part>
  );
}

/** One block's look for all of its kind, and the way back to how it came. */
export function SameKind({ block }: { block: Block }) {
  const store = useComposerStore();
  const notify = useNotify();
  const email = useComposer((state) => state.resting);
  const type = blockType(block.type);
  if (!type || type.fixed) return null;
  const { others, different } = likeBlocks(email, block.id);
  const changed = differsFromShelf(block);
  const apply = store.getState().apply;
  return (
    <Part title={`All “${type.label}” blocks`}>
      {others === 0 ? (
        <p className="text-ink-soft">This is the only one.</p>
      ) : different === 0 ? (
        <p className="text-ink-soft">All {others + 1} look alike.</p>
      ) : (
        <Button
          className="w-full"
          onClick={() => {
            if (apply(spreadLook(block.id), "Using one look for all"))
              notify({
                text: `${counted(different, "block")} took over this look. Undo brings theirs back.`,
              });
          }}
        >
          Use this look for all: {different} of {others} change
        </Button>
      )}
      <div className="flex flex-wrap gap-2">
        <Button
          disabled={!changed.look}
          onClick={() => apply(fromShelf(block.id, "look"), "Resetting the look")}
        >
          <RotateCcw className="size-4" aria-hidden /> Look as it came
        </Button>
        <Button
          kind="quiet"
          disabled={!changed.anything}
          onClick={() => {
            store.getState().edit(null);
            if (apply(fromShelf(block.id, "everything"), "Setting the block back"))
              notify({ text: "The block is as it came from the shelf. Undo brings yours back." });
          }}
        >
          Everything as it came
        </Button>
      </div>
    </Part>
  );
}
