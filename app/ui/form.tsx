import clsx from "clsx";
import { CircleAlert, Search, TriangleAlert } from "lucide-react";
import { ToggleGroup } from "radix-ui";
import { type ComponentProps, createContext, type ReactNode, useContext, useId } from "react";

/** What a control shows, and who hears what it is to be. */
export interface Editing<T> {
  value: T;
  onChange(value: T): void;
}

/** The id that the label around a field points at. One field stands in a label; others in it are `Unlabelled`. */
const LabelledId = createContext<string | undefined>(undefined);

/** The id of a field: its own, or what the label around it points at. */
export function useFieldId(own: string | undefined): string | undefined {
  const given = useContext(LabelledId);
  return own ?? given;
}

/** What stands within a label, and is not what the label names. */
export const Unlabelled = ({ children }: { children: ReactNode }) => (
  <LabelledId.Provider value={undefined}>{children}</LabelledId.Provider>
);

/** A label beside its control, as the panels use it. */
export function Line({ label, children, mark }: { label: string; children: ReactNode; mark?: ReactNode }) {
  const id = useId();
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2">
      <label htmlFor={id} className="flex items-center gap-1.5 text-ink-soft">
        {label}
        {mark}
      </label>
      <div className="min-w-0">
        <LabelledId.Provider value={id}>{children}</LabelledId.Provider>
      </div>
    </div>
  );
}

/** A label above its control, as pages use it. */
export function Labelled({ label, hint, children }: { label: string; hint?: string; children: ReactNode }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-medium">
        {label}
      </label>
      <LabelledId.Provider value={id}>{children}</LabelledId.Provider>
      {hint && <p className="mt-1 text-xs text-ink-soft">{hint}</p>}
    </div>
  );
}

export function Input({ id, className, ...rest }: ComponentProps<"input">) {
  return <input id={useFieldId(id)} className={clsx("field", className)} {...rest} />;
}

/** What is looked for; what is given as its look is the look of the whole. */
export function SearchInput({ className, ...rest }: ComponentProps<"input">) {
  return (
    <div className={clsx("relative", className)}>
      <Search className="pointer-events-none absolute top-2 left-2.5 size-4 text-ink-soft" aria-hidden />
      <Input className="pl-8" {...rest} />
    </div>
  );
}

/** An input of several lines. */
export function Area({ id, className, ...rest }: ComponentProps<"textarea">) {
  return <textarea id={useFieldId(id)} className={clsx("field", className)} {...rest} />;
}

/** One choice out of few, all of them in view. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly { value: NoInfer<T>; label: string; icon?: ReactNode }[];
  onChange(value: NoInfer<T>): void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => next !== "" && onChange(next as T)}
      className="flex rounded-md border border-line bg-paper p-0.5"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          aria-label={option.label}
          className="flex h-7 grow items-center justify-center gap-1.5 rounded-[5px] px-1.5 text-ink-soft hover:bg-black/4 data-[state=on]:bg-[#e9e7ec] data-[state=on]:font-semibold data-[state=on]:text-ink"
        >
          {option.icon ?? option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** What is wrong and what to do, where it happened. */
export function Problem({ children, mild }: { children: ReactNode; mild?: boolean }) {
  const Icon = mild ? TriangleAlert : CircleAlert;
  return (
    <p
      role="alert"
      className={clsx(
        "flex gap-2 rounded-md px-3 py-2",
        mild ? "bg-amber-wash text-amber" : "bg-red-wash text-red",
      )}
    >
      <Icon className="mt-0.5 size-4 shrink-0" aria-hidden />
      <span>{children}</span>
    </p>
  );
}
