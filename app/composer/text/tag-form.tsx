import { Trash2 } from "lucide-react";
import type { MergeTag } from "~/core/email";
import { IconButton } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { Input, Labelled } from "../../ui/form";
import { counted } from "../../ui/time";
import { useComposer } from "../store";
import { FORMATS, readerData, tagOf } from "./reader-data";
import { tagWords } from "./values";

/** What a merge tag writes, how, and what those get who lack it. */
export function TagForm({
  tag,
  onChange: change,
  onRemove,
  onClose: close,
}: {
  tag: MergeTag;
  onChange(part: Partial<MergeTag>): void;
  onRemove(): void;
  onClose(): void;
}) {
  const reader = useComposer((state) => state.reader);
  const language = useComposer((state) => state.email.language);
  const {
    words: { fields },
    brand,
    lacking,
  } = useComposer((state) => state.facts);
  const kind = fields.find((field) => field.key === tag.field)?.kind;
  const lack = lacking[tag.field] ?? 0;
  return (
    <>
      <Labelled label="What">
        {(id) => (
          <Choose
            id={id}
            label="What"
            value={tag.field}
            onChange={(field) => {
              const datum = readerData(fields, brand).find(({ key }) => key === field);
              if (datum) change({ field, or: "", format: tagOf(datum).format });
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
        <Labelled label="Where it is missing">
          {(id) => (
            <Choose
              id={id}
              label="Where it is missing"
              value={tag.or ?? ""}
              onChange={(or) => change({ or })}
              options={[
                { value: "", label: "no other field" },
                ...fields
                  .filter((field) => field.key !== tag.field && field.kind === kind)
                  .map(({ key, label }) => ({ value: key, label })),
              ]}
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
        <IconButton label="Take the tag out" className="size-7!" onClick={onRemove}>
          <Trash2 className="size-4" />
        </IconButton>
      </div>
    </>
  );
}
