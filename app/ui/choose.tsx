import clsx from "clsx";
import { Check, ChevronsUpDown } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, type ReactNode, useEffect, useId, useRef, useState } from "react";

export interface Option<T extends string = string> {
  value: T;
  label: string;
  /** More about it, in soft letters behind the label. */
  aside?: ReactNode;
  /** Other words under which the search finds it. */
  words?: string;
  disabled?: boolean;
}

/** From so many on, a list can be searched. */
const SEARCHED_FROM = 10;

/**
 * One choice out of a list that opens. Letters typed on it choose the next entry that begins so; a long list has a field
 * to search it.
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
  const [open, setOpen] = useState(false);
  const list = useId();
  const chosen = options.find((option) => option.value === value);
  const choose = (option: Option<T>) => {
    setOpen(false);
    if (option.value !== value) onChange(option.value);
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setOpen(true);
    } else if (/^\p{L}$/u.test(event.key) && !event.ctrlKey && !event.metaKey && !event.altKey) {
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
    <Popover.Root open={open} onOpenChange={setOpen}>
      {name !== undefined && <input type="hidden" name={name} value={value} />}
      <Popover.Trigger asChild>
        <button
          id={id}
          type="button"
          role="combobox"
          aria-label={label}
          aria-expanded={open}
          aria-controls={list}
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
          onOpenAutoFocus={(event) => event.preventDefault()}
        >
          <OptionList id={list} label={label} value={value} options={options} onChoose={choose} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function OptionList<T extends string>({
  id,
  label,
  value,
  options,
  onChoose,
}: {
  id: string;
  label?: string;
  value: string;
  options: readonly Option<T>[];
  onChoose(option: Option<T>): void;
}) {
  const searched = options.length > SEARCHED_FROM;
  const [query, setQuery] = useState("");
  const wanted = query.trim().toLowerCase();
  const shown = options.filter((option) =>
    `${option.label} ${option.words ?? ""}`.toLowerCase().replaceAll("_", " ").includes(wanted),
  );
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      options.findIndex((option) => option.value === value),
    ),
  );
  const active = Math.min(at, shown.length - 1);
  const box = useRef<HTMLDivElement>(null);
  const focus = useRef<HTMLElement>(null);
  useEffect(() => focus.current?.focus(), []);
  useEffect(() => {
    box.current?.querySelector(`[data-at="${active}"]`)?.scrollIntoView({ block: "nearest" });
  }, [active]);
  const press = (event: KeyboardEvent) => {
    const last = shown.length - 1;
    const to = {
      ArrowDown: Math.min(last, active + 1),
      ArrowUp: Math.max(0, active - 1),
      Home: 0,
      End: last,
    }[event.key];
    if (to !== undefined && !(searched && (event.key === "Home" || event.key === "End"))) setAt(to);
    else if (event.key === "Enter" || (event.key === " " && !searched) || event.key === "Tab") {
      const option = shown[active];
      if (option && !option.disabled && event.key !== "Tab") onChoose(option);
    } else if (!searched && /^\p{L}$/u.test(event.key)) {
      const next = [...shown.keys()]
        .map((index) => (active + 1 + index) % shown.length)
        .find((index) => shown[index].label.toLowerCase().startsWith(event.key.toLowerCase()));
      if (next !== undefined) setAt(next);
    } else return;
    event.preventDefault();
  };
  const current = shown[active] ? `${id}-${active}` : undefined;
  return (
    <>
      {searched && (
        <input
          ref={focus as React.RefObject<HTMLInputElement>}
          role="combobox"
          aria-expanded
          aria-controls={id}
          aria-activedescendant={current}
          aria-label={`Search${label ? `: ${label}` : ""}`}
          className="field m-1 w-[calc(100%-0.5rem)]!"
          placeholder="Search"
          value={query}
          onChange={(event) => {
            setQuery(event.target.value);
            setAt(0);
          }}
          onKeyDown={press}
        />
      )}
      <div
        ref={(element) => {
          box.current = element;
          if (!searched) focus.current = element;
        }}
        role="listbox"
        id={id}
        aria-label={label ?? "Choices"}
        tabIndex={searched ? -1 : 0}
        aria-activedescendant={searched ? undefined : current}
        className="max-h-72 min-h-0 overflow-y-auto p-1 outline-none"
        onKeyDown={searched ? undefined : press}
      >
        {shown.map((option, index) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the keys are heard on the list, which has the focus
          <div
            key={option.value}
            id={`${id}-${index}`}
            data-at={index}
            role="option"
            tabIndex={-1}
            aria-selected={option.value === value}
            aria-disabled={option.disabled}
            className={clsx(
              "flex min-h-8 cursor-default items-center gap-2 rounded-md px-2 aria-disabled:opacity-45",
              index === active && "bg-black/6",
            )}
            onPointerMove={() => setAt(index)}
            onClick={() => !option.disabled && onChoose(option)}
          >
            <Check
              className={clsx("size-3.5 shrink-0", option.value === value ? "text-mulberry" : "invisible")}
              aria-hidden
            />
            <span className="min-w-0 grow truncate">{option.label}</span>
            {option.aside !== undefined && (
              <span className="shrink-0 text-xs text-ink-soft">{option.aside}</span>
            )}
          </div>
        ))}
      </div>
      {shown.length === 0 && <p className="px-3 pb-2 text-ink-soft">Nothing is called “{query}”.</p>}
    </>
  );
}
