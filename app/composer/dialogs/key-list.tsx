import { Dialog } from "../../ui/dialog";
import { useComposer } from "../state/store";

const KEYS: readonly { title: string; keys: readonly [keys: string, does: string][] }[] = [
  {
    title: "Parts of the email",
    keys: [
      ["↑ ↓", "Walk the blocks"],
      ["Shift + ↑ ↓", "Select several"],
      ["Enter", "Edit the words"],
      ["Escape", "Leave the words, or select the parent"],
      ["Alt + ↑ ↓", "Move the selected part"],
      ["Space on a handle or shelf item", "Pick up, arrows choose the place, Space drops"],
      ["Enter on a shelf item", "Add after the selection"],
      ["Tab in a cell or line", "On to the next words of the block"],
      ["Arrows at the edge of a cell", "On to the cell beside it"],
      ["Ctrl + C, X, V", "Copy, cut, paste a part, also between campaigns"],
      ["Ctrl + D", "Duplicate"],
      ["Delete", "Delete"],
    ],
  },
  {
    title: "Words",
    keys: [
      ["@", "Insert reader data"],
      ["/", "Add a block at the cursor"],
      ["# and a space", "Make the paragraph a heading"],
      ["Ctrl + B, I, U", "Bold, italic, underline"],
      ["Ctrl + Shift + K", "Link"],
      ["Shift + Enter", "Line break without a gap"],
    ],
  },
  {
    title: "Everything",
    keys: [
      ["Ctrl + Z", "Undo"],
      ["Ctrl + Shift + Z", "Redo"],
      ["Ctrl + S", "Save now"],
      ["Alt + , and Alt + .", "Previous and next edition"],
      ["F6", "From the email to the panel, and back"],
      ["[ and ]", "Fold the shelf, fold the panel"],
      ["Ctrl + K", "Find anything"],
      ["?", "This list"],
    ],
  },
];

/** All keys of the composer. */
export function KeyList() {
  const open = useComposer((state) => state.dialog === "keys");
  const set = useComposer((state) => state.set);
  return (
    <Dialog open={open} onClose={() => set({ dialog: null })} title="Keys" wide>
      <div className="columns-2 gap-8 max-md:columns-1">
        {KEYS.map((group) => (
          <section key={group.title} className="mb-5 break-inside-avoid">
            <h3 className="mb-1.5 font-semibold">{group.title}</h3>
            <dl className="space-y-1">
              {group.keys.map(([keys, does]) => (
                <div key={keys} className="grid grid-cols-[130px_minmax(0,1fr)] gap-3">
                  <dt className="font-medium">{keys}</dt>
                  <dd className="text-ink-soft">{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}
