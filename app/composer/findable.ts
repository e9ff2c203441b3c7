import { useEffect } from "react";
import { BLOCK_TYPES, type BlockTypeName, blockTitle, blockType, wordsOf } from "~/core/blocks";
import { walk, wordSigns } from "~/core/email";
import { type FindGroup, useFind } from "../find/find";
import { useActions } from "./actions";
import { useCanvas } from "./canvas/context";
import { thingLabel } from "./drag";
import { nodeLabel } from "./nodes";
import { LAYOUT_THINGS } from "./shelf";
import { useComposerStore } from "./store";

/** Offers the parts of the email, the blocks to add and what can be done to what can be found. */
export function useComposerFindables(): void {
  const { offer } = useFind();
  const store = useComposerStore();
  const actions = useActions();
  const canvas = useCanvas();
  useEffect(
    () =>
      offer((): FindGroup[] => {
        const state = store.getState();
        const { email, set, dark, width } = state;
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
          {
            title: "Do",
            items: [
              { id: "undo", label: "Undo", run: state.undo },
              { id: "redo", label: "Redo", run: state.redo },
              { id: "links", label: "Links", run: () => set({ dialog: "links" }) },
              { id: "text", label: "Text part", words: "plain", run: () => set({ dialog: "text" }) },
              {
                id: "versions",
                label: "Versions",
                words: "history restore",
                run: () => set({ dialog: "versions" }),
              },
              {
                id: "intake",
                label: "Bring in…",
                words: "import paste",
                run: () => set({ dialog: "intake" }),
              },
              { id: "keys", label: "Keys", words: "shortcuts", run: () => set({ dialog: "keys" }) },
              {
                id: "width",
                label: width === "phone" ? "Desktop width" : "Phone width",
                run: () => set({ width: width === "phone" ? "desktop" : "phone" }),
              },
              { id: "dark", label: dark ? "Light" : "Dark", run: () => set({ dark: !dark }) },
              { id: "outline", label: "Outline", run: () => set({ shelf: "outline" }) },
              {
                id: "ask",
                label: "Ask about this email",
                words: "assistant subjects ideas shorter opening",
                run: () => set({ shelf: "ask", pane: "shelf", folded: { ...state.folded, shelf: false } }),
              },
            ],
          },
        ];
      }),
    [offer, store, actions, canvas],
  );
}
