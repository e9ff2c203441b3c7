import clsx from "clsx";
import { UserRound } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { type ComponentProps, type ReactNode, type RefObject, useRef, useState } from "react";
import { readTyped, typedTag } from "~/core/email";
import { type DataFacts, readerData, tagOf } from "../readers/reader-data";
import { IconButton } from "./button";
import { Area, Input, Unlabelled } from "./form";

type Own = {
  value: string;
  onChange(value: string): void;
  /** What tags may speak of. */
  data: DataFacts;
};

/** What is wrong with tags typed into something, each with where. */
function TypedMistakes({ text }: { text: string }) {
  const { mistakes } = readTyped(text);
  if (mistakes.length === 0) return null;
  return (
    <ul role="status" className="space-y-0.5 text-xs text-amber">
      {mistakes.slice(0, 5).map(({ at, length, text: wrong }) => {
        const before = text.slice(0, at).split("\n");
        return (
          <li key={at}>
            {text.includes("\n") && `Line ${before.length}: `}
            <code className="rounded-sm bg-amber-wash px-1">{text.slice(at, at + Math.min(length, 40))}</code>{" "}
            {wrong}
          </li>
        );
      })}
    </ul>
  );
}

/** Puts reader data where the cursor stands. */
function PutData({ data, onPut }: { data: DataFacts; onPut(text: string): void }) {
  const [query, setQuery] = useState("");
  const found = readerData(data, query).slice(0, 60);
  return (
    <DropdownMenu.Root onOpenChange={() => setQuery("")}>
      <DropdownMenu.Trigger asChild>
        <IconButton icon={UserRound} small label="Put in reader data" className="size-7! text-teal" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          data-floating
          className="z-50 max-h-72 w-64 overflow-y-auto rounded-lg border bg-paper p-1 shadow-xl"
        >
          <Unlabelled>
            <Input
              aria-label="Search reader data"
              placeholder="Search"
              className="mb-1"
              value={query}
              onChange={(event) => setQuery(event.target.value)}
              onKeyDown={(event) =>
                event.key !== "ArrowDown" && event.key !== "Escape" && event.stopPropagation()
              }
            />
          </Unlabelled>
          {found.map((datum) => (
            <DropdownMenu.Item
              key={datum.key}
              className="flex min-h-7 cursor-pointer items-center rounded-md px-2 data-highlighted:bg-mulberry-wash"
              onSelect={() => onPut(typedTag(tagOf(datum)))}
            >
              <span className="truncate">{datum.label}</span>
            </DropdownMenu.Item>
          ))}
          {found.length === 0 && <p className="px-2 py-1 text-ink-soft">Nothing is called “{query}”.</p>}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

type Field = HTMLInputElement | HTMLTextAreaElement;

/** A field with a button that puts reader data where its cursor stands, and what is wrong with its tags below. */
function Typed({
  value,
  onChange,
  data,
  disabled,
  children,
}: Own & {
  disabled?: boolean;
  children(field: RefObject<Field | null>): ReactNode;
}) {
  const field = useRef<Field>(null);
  const put = (text: string) => {
    const { selectionStart, selectionEnd } = field.current ?? {};
    const from = selectionStart ?? value.length;
    onChange(value.slice(0, from) + text + value.slice(selectionEnd ?? from));
    requestAnimationFrame(() => {
      field.current?.focus();
      field.current?.setSelectionRange(from + text.length, from + text.length);
    });
  };
  return (
    <div className="space-y-1">
      <div className="relative">
        {children(field)}
        {!disabled && (
          <div className="absolute top-0.5 right-0.5">
            <PutData data={data} onPut={put} />
          </div>
        )}
      </div>
      <TypedMistakes text={value} />
    </div>
  );
}

/** A line of plain words in which tags may be typed. */
export function TypedInput({
  value,
  onChange,
  data,
  className,
  ...rest
}: Own & Omit<ComponentProps<typeof Input>, keyof Own>) {
  return (
    <Typed value={value} onChange={onChange} data={data} disabled={rest.disabled}>
      {(field) => (
        <Input
          ref={field as RefObject<HTMLInputElement | null>}
          {...rest}
          className={clsx("pr-9", className)}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Typed>
  );
}

/** The same of several lines. */
export function TypedArea({
  value,
  onChange,
  data,
  className,
  ...rest
}: Own & Omit<ComponentProps<typeof Area>, keyof Own>) {
  return (
    <Typed value={value} onChange={onChange} data={data} disabled={rest.disabled}>
      {(field) => (
        <Area
          ref={field as RefObject<HTMLTextAreaElement | null>}
          {...rest}
          className={clsx("py-2 pr-9", className)}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Typed>
  );
}
