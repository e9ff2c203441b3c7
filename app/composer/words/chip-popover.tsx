import { Popover } from "radix-ui";
import type { Either, Inline, MergeTag } from "~/core/email";
import { EitherForm } from "./either-form";
import { TagForm } from "./tag-form";
import type { Chip } from "./writing";

/** A tag, or an either/or, edited beside where it stands, while one looks at it. */
export default function ChipPopover({
  chip,
  deep = 1,
  onChip,
}: {
  chip: Chip;
  /** How deep it stands in an either/or, from 1. */
  deep?: number;
  onChip(chip: Chip | null): void;
}) {
  const { editor, at, place } = chip;
  const node = editor.isDestroyed ? null : editor.state.doc.nodeAt(at);
  const type = node?.type.name;
  if (!node || (type !== "mergeTag" && type !== "either")) return null;
  const change = (part: object) => {
    editor.view.dispatch(editor.state.tr.setNodeMarkup(at, null, { ...node.attrs, ...part }, node.marks));
    // It is drawn anew; what is shown here follows it.
    onChip({ ...chip });
  };
  const close = () => onChip(null);
  const remove = () => {
    editor.view.dispatch(editor.state.tr.delete(at, at + 1));
    close();
  };
  return (
    <Popover.Root open onOpenChange={(open) => !open && close()}>
      <Popover.Anchor virtualRef={{ current: { getBoundingClientRect: () => place } }} />
      <Popover.Portal>
        <Popover.Content
          data-floating
          sideOffset={6}
          collisionPadding={8}
          aria-label={type === "either" ? "Either/or" : "Reader data"}
          className={`pointer-events-auto z-50 max-h-(--radix-popover-content-available-height) max-w-[calc(100vw-1rem)] space-y-3 overflow-y-auto rounded-lg border bg-paper p-3 shadow-xl ${type === "either" ? "w-112" : "w-72"}`}
          onInteractOutside={(event) => {
            // The menu at the cursor belongs to the words in here.
            const target = event.target as HTMLElement | null;
            if (target?.closest("[data-floating][role=listbox]")) event.preventDefault();
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (!editor.isDestroyed) editor.commands.focus();
          }}
        >
          {type === "either" ? (
            <EitherForm
              attrs={node.attrs as Either<Inline>["attrs"]}
              plain={editor.schema.marks.bold === undefined}
              deep={deep}
              inner={(pressed, onPressed) => (
                <ChipPopover chip={pressed} deep={deep + 1} onChip={onPressed} />
              )}
              onChange={change}
              onRemove={remove}
            />
          ) : (
            <TagForm tag={node.attrs as MergeTag} onChange={change} onRemove={remove} onClose={close} />
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
