import clsx from "clsx";
import { Command } from "cmdk";
import { Check, ChevronsUpDown } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, type ReactNode, useState } from "react";
import { useFieldId } from "./form";

export interface Option<T extends string = string> {
  value: T;
  label: string;
  /** More about it, in soft letters behind the label. */
  aside?: ReactNode;
  /** Other words under which the search finds it. */
  words?: string;
  disabled?: boolean;
}

/** From so many on, a list shows at once that it can be searched. */
const SEARCHED_FROM = 10;

/**
 * One choice out of a list that opens. Letters typed on it while it is closed choose the next entry that begins so; in
 * the open list they search.
 */
export function Choose<T extends string>({
  id,
  label,
  value,
  options,
  onChange,
  placeholder = "Choose…",
  className,
  disabled,
  name,
}: {
  id?: string;
  /** Its accessible name, where no label element points at it. */
  label?: string;
  value: T | "";
  options: readonly Option<T>[];
  onChange(value: T): void;
  /** Shown while nothing that is in the list is chosen. */
  placeholder?: string;
  className?: string;
  disabled?: boolean;
  /** For forms that are sent as they are. */
  name?: string;
}) {
  const fieldId = useFieldId(id);
  const [open, setOpen] = useState(false);
  const [query, setQuery] = useState("");
  const chosen = options.find((option) => option.value === value);
  const turn = (to: boolean) => {
    setQuery("");
    setOpen(to);
  };
  const choose = (option: Option<T>) => {
    turn(false);
    if (option.value !== value) onChange(option.value);
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      if (!open) turn(true);
    } else if (/^\p{L}$/u.test(event.key) && !event.ctrlKey && !event.metaKey && !event.altKey) {
      // The list is opening and has not taken the keys yet: they are meant for it.
      if (open) {
        event.preventDefault();
        setQuery((before) => before + event.key);
        return;
      }
      const from = options.findIndex((option) => option.value === value) + 1;
      const turned = [...options.slice(from), ...options.slice(0, from)];
      const next = turned.find(
        (option) => !option.disabled && option.label.toLowerCase().startsWith(event.key.toLowerCase()),
      );
      if (next) {
        event.preventDefault();
        onChange(next.value);
      }
    }
  };
  return (
    <Popover.Root open={open} onOpenChange={turn}>
      {name !== undefined && <input type="hidden" name={name} value={value} />}
      <Popover.Trigger asChild>
        <button
          id={fieldId}
          type="button"
          role="combobox"
          aria-label={label}
          aria-expanded={open}
          aria-haspopup="listbox"
          disabled={disabled}
          data-choose
          className={clsx("field flex items-center gap-1 pr-2! text-left disabled:opacity-45", className)}
          onKeyDown={press}
        >
          <span className={clsx("min-w-0 grow truncate", !chosen && "text-[#6d6776]")}>
            {chosen?.label ?? placeholder}
          </span>
          <ChevronsUpDown className="size-3.5 shrink-0 text-ink-soft" aria-hidden />
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          align="start"
          collisionPadding={8}
          className="z-50 flex max-h-(--radix-popover-content-available-height) w-max max-w-90 min-w-(--radix-popover-trigger-width) flex-col rounded-lg border bg-paper shadow-xl outline-none"
          // In a dialog the page behind does not scroll; this list does.
          onWheel={(event) => event.stopPropagation()}
        >
          <OptionList
            label={label}
            value={value}
            options={options}
            query={query}
            onQuery={setQuery}
            onChoose={choose}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/**
 * The open list. The field to search it is there for short ones as well, out of sight until something is written in it:
 * so the keys are heard in one place. What is chosen is checked; what the keys are on is selected, as the library says it.
 */
function OptionList<T extends string>({
  label,
  value,
  options,
  query,
  onQuery,
  onChoose,
}: {
  label?: string;
  value: string;
  options: readonly Option<T>[];
  query: string;
  onQuery(query: string): void;
  onChoose(option: Option<T>): void;
}) {
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      options.findIndex((option) => option.value === value),
    ),
  );
  const wanted = query.trim().toLowerCase();
  const searched = options.length > SEARCHED_FROM || query !== "";
  return (
    <Command
      label={searched ? `Search${label ? `: ${label}` : ""}` : (label ?? "Choices")}
      className="flex min-h-0 flex-col"
      shouldFilter={false}
      vimBindings={false}
      value={String(at)}
      onValueChange={(value) => setAt(Number(value))}
      onKeyDown={(event) => {
        if (event.key !== " " || query !== "") return;
        event.preventDefault();
        if (!options[at].disabled) onChoose(options[at]);
      }}
    >
      <Command.Input
        className={searched ? "field m-1 w-[calc(100%-0.5rem)]! shrink-0" : "sr-only"}
        placeholder="Search"
        value={query}
        onValueChange={onQuery}
      />
      <Command.List label={label ?? "Choices"} className="max-h-72 min-h-0 overflow-y-auto p-1 outline-none">
        {options.map(
          (option, index) =>
            `${option.label} ${option.words ?? ""}`.toLowerCase().replaceAll("_", " ").includes(wanted) && (
              <Command.Item
                key={option.value}
                value={String(index)}
                disabled={option.disabled}
                aria-checked={option.value === value}
                onSelect={() => onChoose(option)}
                className="flex min-h-8 cursor-default items-center gap-2 rounded-md px-2 aria-disabled:opacity-45 aria-selected:bg-black/6"
              >
                <Check
                  className={clsx(
                    "size-3.5 shrink-0",
                    option.value === value ? "text-mulberry" : "invisible",
                  )}
                  aria-hidden
                />
                <span className="min-w-0 grow truncate">{option.label}</span>
                {option.aside !== undefined && (
                  <span className="shrink-0 text-xs text-ink-soft">{option.aside}</span>
                )}
              </Command.Item>
            ),
        )}
        <Command.Empty className="px-2 py-1 text-ink-soft">Nothing is called “{query}”.</Command.Empty>
      </Command.List>
    </Command>
  );
}
