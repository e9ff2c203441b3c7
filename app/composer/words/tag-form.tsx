import { Trash2 } from "lucide-react";
import type { MergeTag } from "~/core/email";
import { FORMATS, readerData, tagOf } from "../../readers/reader-data";
import { IconButton } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { Input, Labelled } from "../../ui/form";
import { NumberField } from "../../ui/number-field";
import { counted } from "../../ui/time";
import { useComposer } from "../state/store";
import { around, tagWords } from "../state/values";
import { TagWhy } from "./tag-why";

/** What is said where something is missing, by what the tag asks. */
const FALLBACK = {
  reader: {
    label: "For readers without it",
    placeholder: "gardener",
    hint: (lack: number) =>
      lack > 0
        ? `${counted(lack, "reader lacks", "readers lack")} it. Left empty, they get nothing here.`
        : "All of your readers have it at present.",
  },
  lookup: {
    label: "Where the lookup has nothing",
    placeholder: "",
    hint: () => "Its cases are written under Lookups.",
  },
  code: {
    label: "When there is no code left",
    placeholder: "Ask in the shop",
    hint: () => "Left empty, a sending stops before it runs short.",
  },
} as const;

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
  const email = useComposer((state) => state.email);
  const facts = useComposer((state) => state.facts);
  const data = readerData(facts);
  const datum = data.find(({ key }) => key === tag.field);
  const kind = datum?.kind ?? null;
  const lack = facts.lacking[tag.field] ?? 0;
  const of = datum?.of ?? "reader";
  const missing = of === "all" || of === "day" || of === "letter" ? null : FALLBACK[of];
  return (
    <>
      <Labelled label="What">
        <Choose
          label="What"
          value={tag.field}
          onChange={(field) => {
            const next = data.find(({ key }) => key === field);
            if (next) change({ currency: undefined, days: undefined, ...tagOf(next), or: "" });
          }}
          options={[
            ...(datum ? [] : [{ value: tag.field, label: `${tag.field} (gone)` }]),
            ...data.map(({ key, label }) => ({ value: key, label })),
          ]}
        />
      </Labelled>
      {kind && FORMATS[kind].length > 1 && (
        <Labelled label="Written">
          <Choose
            label="Written"
            value={tag.format}
            onChange={(format) =>
              change({ format, ...(format === "money" && { currency: datum?.currency }) })
            }
            options={FORMATS[kind].filter(({ value }) => value !== "money" || datum?.currency)}
          />
        </Labelled>
      )}
      {kind === "date" && (
        <Labelled label="Moved by" hint="Days later, or earlier below 0">
          <NumberField
            min={-9999}
            max={9999}
            value={tag.days ?? 0}
            onChange={(days) => change({ days: days === 0 ? undefined : days })}
          />
        </Labelled>
      )}
      {datum?.of === "reader" && (
        <Labelled label="Where it is missing">
          <Choose
            label="Where it is missing"
            value={tag.or ?? ""}
            onChange={(or) => change({ or })}
            options={[
              { value: "", label: "no other field" },
              ...data
                .filter((other) => other.of === "reader" && other.key !== tag.field && other.kind === kind)
                .map(({ key, label }) => ({ value: key, label })),
            ]}
          />
        </Labelled>
      )}
      {missing && (
        <Labelled label={missing.label} hint={missing.hint(lack)}>
          <Input
            value={tag.fallback}
            maxLength={200}
            placeholder={missing.placeholder}
            onChange={(event) => change({ fallback: event.target.value })}
            onKeyDown={(event) => event.key === "Enter" && close()}
          />
        </Labelled>
      )}
      <div className="flex items-center justify-between gap-2">
        <p className="min-w-0 truncate text-ink-soft">
          Here:{" "}
          <span className="reader-value">{tagWords(tag, reader, around({ email, facts, reader }))}</span>
          <span className="block text-xs whitespace-normal" data-testid="tag-why">
            <TagWhy tag={tag} />
          </span>
        </p>
        <IconButton icon={Trash2} label="Take the tag out" className="size-7!" onClick={onRemove} />
      </div>
    </>
  );
}
