import type { Editor } from "@tiptap/core";
import { createContext, type ReactNode, useCallback, useContext, useState } from "react";
import type { FieldKind } from "~/core/audience";
import type { MergeTag, TagFormat } from "~/core/email";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Input, Labelled, Select } from "../../ui/form";
import { useComposer } from "../store";
import { tagWords } from "./values";

type Ask = (editor: Editor, tag: MergeTag | null) => void;

const Context = createContext<Ask>(() => undefined);

/** Opens the choice of reader data for an editor: a new tag, or a change of the selected one. */
export function useAskTag(): Ask {
  return useContext(Context);
}

const FORMATS: Record<FieldKind, readonly { value: TagFormat; label: string }[]> = {
  text: [
    { value: "asIs", label: "As it is" },
    { value: "capital", label: "First letter large" },
    { value: "upper", label: "CAPITALS" },
    { value: "lower", label: "small letters" },
  ],
  choice: [
    { value: "asIs", label: "As it is" },
    { value: "capital", label: "First letter large" },
    { value: "upper", label: "CAPITALS" },
    { value: "lower", label: "small letters" },
  ],
  number: [
    { value: "asIs", label: "1234.5" },
    { value: "number", label: "As the reader’s language writes it" },
  ],
  date: [
    { value: "dayMonth", label: "Day and month" },
    { value: "longDate", label: "Day, month, year" },
    { value: "asIs", label: "2026-03-31" },
  ],
  boolean: [{ value: "asIs", label: "yes or no" }],
  set: [{ value: "asIs", label: "Parted by commas" }],
};

const BRAND = [
  { key: "brand.name", label: "Brand name" },
  { key: "brand.address", label: "Postal address" },
];

export function TagDialog({ children }: { children: ReactNode }) {
  const [asked, setAsked] = useState<{ editor: Editor; tag: MergeTag; fresh: boolean } | null>(null);
  const fields = useComposer((state) => state.facts.fields);
  const brand = useComposer((state) => state.facts.brand);
  const reader = useComposer((state) => state.reader);
  const language = useComposer((state) => state.email.language);
  const ask = useCallback<Ask>(
    (editor, tag) =>
      setAsked({
        editor,
        tag: tag ?? { field: "first_name", fallback: "", format: "asIs" },
        fresh: tag === null,
      }),
    [],
  );
  const tag = asked?.tag;
  const kind = fields.find((field) => field.key === tag?.field)?.kind;
  const change = (part: Partial<MergeTag>) =>
    setAsked((now) => now && { ...now, tag: { ...now.tag, ...part } });
  const keep = () => {
    if (!asked) return;
    const { editor, fresh } = asked;
    if (fresh) editor.chain().focus().insertContent({ type: "mergeTag", attrs: asked.tag }).run();
    else editor.chain().focus().updateAttributes("mergeTag", asked.tag).run();
    setAsked(null);
  };
  return (
    <Context.Provider value={ask}>
      {children}
      <Dialog
        open={asked !== null}
        onClose={() => setAsked(null)}
        title={asked?.fresh ? "Insert reader data" : "Reader data"}
      >
        {tag && (
          <form
            className="space-y-4"
            onSubmit={(event) => {
              event.preventDefault();
              keep();
            }}
          >
            <Labelled label="What">
              {(id) => (
                <Select
                  id={id}
                  autoFocus
                  value={tag.field}
                  onChange={(event) => {
                    const next = fields.find((field) => field.key === event.target.value)?.kind;
                    change({ field: event.target.value, format: next ? FORMATS[next][0].value : "asIs" });
                  }}
                >
                  {fields.map((field) => (
                    <option key={field.key} value={field.key}>
                      {field.label}
                    </option>
                  ))}
                  {BRAND.map((fact) => (
                    <option key={fact.key} value={fact.key}>
                      {fact.label}
                    </option>
                  ))}
                </Select>
              )}
            </Labelled>
            {kind && FORMATS[kind].length > 1 && (
              <Labelled label="Written">
                {(id) => (
                  <Select
                    id={id}
                    value={tag.format}
                    onChange={(event) => change({ format: event.target.value as TagFormat })}
                  >
                    {FORMATS[kind].map((format) => (
                      <option key={format.value} value={format.value}>
                        {format.label}
                      </option>
                    ))}
                  </Select>
                )}
              </Labelled>
            )}
            {!tag.field.startsWith("brand.") && (
              <Labelled
                label="For readers without it"
                hint="Their fallback. Left empty, they get nothing here."
              >
                {(id) => (
                  <Input
                    id={id}
                    value={tag.fallback}
                    placeholder="gardener"
                    onChange={(event) => change({ fallback: event.target.value })}
                  />
                )}
              </Labelled>
            )}
            <p className="text-ink-soft">
              This reader gets <span className="reader-value">{tagWords(tag, reader, language, brand)}</span>
            </p>
            <div className="flex justify-end">
              <Button type="submit" kind="primary">
                {asked?.fresh ? "Insert" : "Change"}
              </Button>
            </div>
          </form>
        )}
      </Dialog>
    </Context.Provider>
  );
}
