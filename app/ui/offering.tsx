import clsx from "clsx";
import { Popover } from "radix-ui";
import { type KeyboardEvent, type ReactNode, useId, useState } from "react";

/** What a field is told that offers something below it. */
export interface OfferingField {
  role: "combobox";
  "aria-expanded": boolean;
  "aria-controls": string;
  "aria-autocomplete": "list";
  "aria-activedescendant": string | undefined;
  autoComplete: "off";
  onFocus(): void;
  onBlur(): void;
  onInput(): void;
  onKeyDown(event: KeyboardEvent): void;
}

/**
 * A field in which anything may be typed, with what there is offered below. By hand, since Enter has to keep what was typed:
 * the library of `choose.tsx` is always on one of its entries, and says of its field that it is open while it is not.
 */
export function Offering<T>({
  label,
  offered,
  keyOf,
  onTake,
  onEnter,
  onLeave,
  row,
  wide,
  children,
}: {
  /** What the offered are called. */
  label: string;
  offered: readonly T[];
  keyOf(one: T): string;
  onTake(one: T): void;
  /** Enter where none of them is chosen; left to what is around when missing. */
  onEnter?(): void;
  onLeave?(): void;
  row(one: T): ReactNode;
  /** Wider than its field, where that is narrow. */
  wide?: boolean;
  children(field: OfferingField): ReactNode;
}) {
  const list = useId();
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(-1);
  const shown = open && offered.length > 0;
  const take = (one: T) => {
    setOpen(false);
    onTake(one);
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setOpen(true);
      const step = event.key === "ArrowDown" ? 1 : -1;
      setAt((before) => Math.max(-1, Math.min(offered.length - 1, before + step)));
    } else if (event.key === "Enter") {
      const chosen = shown ? offered[at] : undefined;
      if (chosen === undefined && !onEnter) return;
      event.preventDefault();
      if (chosen !== undefined) take(chosen);
      else onEnter?.();
    } else if (event.key === "Escape" && shown) {
      event.stopPropagation();
      setOpen(false);
    }
  };
  const field: OfferingField = {
    role: "combobox",
    "aria-expanded": shown,
    "aria-controls": list,
    "aria-autocomplete": "list",
    "aria-activedescendant": shown && at >= 0 ? `${list}-${at}` : undefined,
    autoComplete: "off",
    onFocus: () => setOpen(true),
    onBlur() {
      setOpen(false);
      onLeave?.();
    },
    onInput() {
      setOpen(true);
      setAt(-1);
    },
    onKeyDown: press,
  };
  return (
    <Popover.Root open={shown} onOpenChange={setOpen}>
      <Popover.Anchor asChild>
        <div>{children(field)}</div>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          align="start"
          collisionPadding={8}
          className={clsx(
            "z-50 max-h-80 w-(--radix-popover-trigger-width) overflow-y-auto rounded-lg border bg-paper p-1 shadow-xl outline-none",
            wide ? "min-w-72" : "min-w-44",
          )}
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <div role="listbox" id={list} aria-label={label} data-floating>
            {offered.map((one, index) => (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the keys are heard in the field, which has the focus
              <div
                key={keyOf(one)}
                id={`${list}-${index}`}
                role="option"
                tabIndex={-1}
                aria-selected={index === at}
                className={`flex min-h-8 cursor-default items-center gap-2 rounded-md px-2 ${index === at ? "bg-black/6" : ""}`}
                onPointerMove={() => setAt(index)}
                // Before the field loses the focus.
                onPointerDown={(event) => event.preventDefault()}
                onClick={() => take(one)}
              >
                {row(one)}
              </div>
            ))}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
