import clsx from "clsx";
import { DropdownMenu, Popover as Radix } from "radix-ui";
import { type ComponentType, type ReactNode, useState } from "react";
import { Unlabelled } from "./form";

/** A box beside the button that opens it. It stays open while a list that was opened in it is pressed. */
export function Popover({
  button,
  label,
  align,
  className,
  open,
  onOpen,
  onClosed,
  children,
}: {
  button: ReactNode;
  label?: string;
  align?: "start" | "end";
  className?: string;
  /** For who opens it elsewhere, too. */
  open?: boolean;
  onOpen?(open: boolean): void;
  /** Puts the focus somewhere else than on the button once it has closed. */
  onClosed?(): void;
  children: ReactNode | ((close: () => void) => ReactNode);
}) {
  const [own, setOwn] = useState(false);
  const set = (next: boolean) => {
    setOwn(next);
    onOpen?.(next);
  };
  return (
    <Radix.Root open={open ?? own} onOpenChange={set}>
      <Radix.Trigger asChild>{button}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          sideOffset={6}
          align={align}
          collisionPadding={8}
          aria-label={label}
          className={clsx(
            "z-40 max-w-[calc(100vw-1rem)] rounded-lg border bg-paper p-3 shadow-xl outline-none",
            className,
          )}
          onInteractOutside={(event) => {
            const lists = "[data-floating]:is([role=menu], [role=listbox])";
            if ((event.target as HTMLElement).closest?.(lists)) event.preventDefault();
          }}
          onCloseAutoFocus={(event) => {
            if (!onClosed) return;
            event.preventDefault();
            onClosed();
          }}
        >
          <Unlabelled>{typeof children === "function" ? children(() => set(false)) : children}</Unlabelled>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

export interface MenuEntry {
  label: string;
  icon: ComponentType<{ className?: string; strokeWidth?: number; "aria-hidden"?: boolean }>;
  /** What it does, or the file it takes out. */
  run?(): void;
  file?: string;
  /** The keys that do the same. */
  keys?: string;
}

/** A menu under a button; its parts are ruled off, each under what it is called. */
export function Menu({
  button,
  parts,
  opened,
}: {
  button: ReactNode;
  parts: readonly { label?: string; entries: readonly MenuEntry[] }[];
  /** Whether it is open from the beginning. */
  opened?: boolean;
}) {
  return (
    <DropdownMenu.Root defaultOpen={opened}>
      <DropdownMenu.Trigger asChild>{button}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-40 min-w-44 rounded-lg border bg-paper p-1 shadow-xl"
        >
          {parts.map(({ label = "", entries }, index) => (
            <DropdownMenu.Group key={label}>
              {index > 0 && <DropdownMenu.Separator className="my-1 h-px bg-line" />}
              {label && (
                <DropdownMenu.Label className="px-2 py-1 text-xs text-ink-soft">{label}</DropdownMenu.Label>
              )}
              {entries.map((entry) => (
                <Entry key={entry.label} {...entry} />
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Entry({ label, icon: Icon, run, file, keys }: MenuEntry) {
  const inside = (
    <>
      <Icon className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
      <span className="grow">{label}</span>
      {keys && (
        <span aria-hidden className="text-xs text-ink-soft">
          {keys}
        </span>
      )}
    </>
  );
  return (
    <DropdownMenu.Item
      asChild={file !== undefined}
      onSelect={run}
      className="flex h-8 cursor-default items-center gap-2 rounded-md px-2 text-ink no-underline outline-none data-highlighted:bg-black/6"
    >
      {file === undefined ? (
        inside
      ) : (
        <a href={file} download>
          {inside}
        </a>
      )}
    </DropdownMenu.Item>
  );
}
