import { useEffect } from "react";
import { useNavigate } from "react-router";
import { BLOCK_TYPES, type BlockTypeName, blockTitle, blockType, wordsOf } from "~/core/blocks";
import { walk, wordSigns } from "~/core/email";
import { useFind } from "../../find/find";
import type { FindGroup } from "../../find/findable";
import { useCanvas } from "../canvas/context";
import { thingLabel } from "../canvas/drag";
import { useActions } from "../state/actions";
import { nodeLabel } from "../state/nodes";
import { useComposerStore } from "../state/store";
import { doable } from "./doable";
import { LAYOUT_THINGS } from "./shelf";

/** Offers the parts of the email, the blocks to add and what can be done to what can be found. */
export function useComposerFindables(): void {
  const { offer } = useFind();
  const store = useComposerStore();
  const actions = useActions();
  const canvas = useCanvas();
  const navigate = useNavigate();
  useEffect(
    () =>
      offer((): FindGroup[] => {
        const state = store.getState();
        const { email } = state;
        const reveal = (id: string) => {
          state.select(id);
          canvas.reveal(id);
          canvas.focus();
        };
        return [
          {
            title: "In this email",
            items: [...walk(email)]
              .filter((it) =>
                it.kind === "block"
                  ? true
                  : it.kind === "column"
                    ? it.node.blocks.length === 0
                    : it.node.name,
              )
              .map((it) => ({
                id: it.node.id,
                label:
                  it.kind === "block"
                    ? blockTitle(it.node)
                    : it.kind === "column"
                      ? `Empty column ${it.index + 1}`
                      : nodeLabel(it),
                words:
                  it.kind === "block"
                    ? wordsOf(it.node)
                        .map(({ words }) => wordSigns(words))
                        .join(" ")
                        .slice(0, 400)
                    : "",
                aside: it.kind === "block" ? (blockType(it.node.type)?.label ?? "") : it.kind,
                run: () => reveal(it.node.id),
              })),
          },
          {
            title: "Add",
            items: [
              ...LAYOUT_THINGS.map(({ thing, words }) => ({
                id: `add ${thingLabel(thing)}`,
                label: `Add: ${thingLabel(thing)}`,
                words,
                run: () => actions.addAfterSelection(thing),
              })),
              ...(Object.keys(BLOCK_TYPES) as BlockTypeName[])
                .filter((type) => !BLOCK_TYPES[type].fixed)
                .map((type) => ({
                  id: `add ${type}`,
                  label: `Add: ${BLOCK_TYPES[type].label}`,
                  words: BLOCK_TYPES[type].words,
                  run: () => actions.addAfterSelection({ kind: "block", type }),
                })),
            ],
          },
          {
            title: "Clippings",
            items: (state.clippings ?? []).map((clipping) => ({
              id: `clipping ${clipping.id}`,
              label: `Add: ${clipping.name}`,
              words: JSON.stringify(clipping.node).slice(0, 2000),
              aside: clipping.part,
              run: () =>
                actions.addAfterSelection({ kind: clipping.part, clipping, linked: state.stayLinked }),
            })),
          },
          ...doable(store, navigate),
        ];
      }),
    [offer, store, actions, canvas, navigate],
  );
}
