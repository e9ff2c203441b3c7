import { Trash2 } from "lucide-react";
import { Popover } from "radix-ui";
import type { MergeTag } from "~/core/email";
import { IconButton } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { Input, Labelled } from "../../ui/form";
import { counted } from "../../ui/time";
import { useComposer, useComposerStore } from "../store";
import { FORMATS, readerData, tagOf } from "./reader-data";
import { tagWords } from "./values";

/** What a merge tag writes, how, and what those get who lack it: edited beside the tag, while one looks at it. */
export function TagPopover() {
  const store = useComposerStore();
  const chip = useComposer((state) => state.chip);
  const reader = useComposer((state) => state.reader);
  const language = useComposer((state) => state.email.language);
  const {
    words: { fields },
    brand,
    lacking,
  } = useComposer((state) => state.facts);
  if (!chip) return null;
  const { editor, at, place } = chip;
  const node = editor.isDestroyed ? null : editor.state.doc.nodeAt(at);
  if (node?.type.name !== "mergeTag") return null;
  const tag = node.attrs as MergeTag;
  const kind = fields.find((field) => field.key === tag.field)?.kind;
  const change = (part: Partial<MergeTag>) => {
    editor.view.dispatch(editor.state.tr.setNodeMarkup(at, null, { ...tag, ...part }, node.marks));
    // The chip is drawn anew; what is shown here follows it.
    store.getState().set({ chip: { ...chip } });
  };
  const close = () => store.getState().set({ chip: null });
  const lack = lacking[tag.field] ?? 0;
  return (
    <Popover.Root open onOpenChange={(open) => !open && close()}>
      <Popover.Anchor virtualRef={{ current: { getBoundingClientRect: () => place } }} />
      <Popover.Portal>
        <Popover.Content
          data-floating
          sideOffset={6}
          collisionPadding={8}
          aria-label="Reader data"
          className="pointer-events-auto z-50 w-72 space-y-3 rounded-lg border bg-paper p-3 shadow-xl"
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (!editor.isDestroyed) editor.commands.focus();
          }}
        >
          <Labelled label="What">
            {(id) => (
              <Choose
                id={id}
                label="What"
                value={tag.field}
                onChange={(field) => {
                  const datum = readerData(fields, brand).find(({ key }) => key === field);
                  if (datum) change({ field, format: tagOf(datum).format });
                }}
                options={readerData(fields, brand).map(({ key, label }) => ({ value: key, label }))}
              />
            )}
          </Labelled>
          {kind && FORMATS[kind].length > 1 && (
            <Labelled label="Written">
              {(id) => (
                <Choose
                  id={id}
                  label="Written"
                  value={tag.format}
                  onChange={(format) => change({ format })}
                  options={FORMATS[kind]}
                />
              )}
            </Labelled>
          )}
          {kind && (
            <Labelled
              label="For readers without it"
              hint={
                lack > 0
                  ? `${counted(lack, "reader lacks", "readers lack")} it. Left empty, they get nothing here.`
                  : "All of your readers have it at present."
              }
            >
              {(id) => (
                <Input
                  id={id}
                  value={tag.fallback}
                  maxLength={200}
                  placeholder="gardener"
                  onChange={(event) => change({ fallback: event.target.value })}
                  onKeyDown={(event) => event.key === "Enter" && close()}
                />
              )}
            </Labelled>
          )}
          <div className="flex items-center justify-between gap-2">
            <p className="min-w-0 truncate text-ink-soft">
              Here: <span className="reader-value">{tagWords(tag, reader, language, brand)}</span>
            </p>
            <IconButton
              label="Take the tag out"
              className="size-7!"
              onClick={() => {
                editor.view.dispatch(editor.state.tr.delete(at, at + 1));
                close();
              }}
            >
              <Trash2 className="size-4" />
            </IconButton>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
