import clsx from "clsx";
import type { LucideIcon } from "lucide-react";
import { Tooltip } from "radix-ui";
import type { ButtonHTMLAttributes, Ref } from "react";

type Kind = "primary" | "plain" | "quiet" | "danger";

const LOOK: Record<Kind, string> = {
  primary: "bg-mulberry text-white hover:bg-mulberry-deep border border-mulberry-deep",
  plain: "bg-paper border border-line hover:bg-[#f6f5f8]",
  quiet: "hover:bg-black/5",
  danger: "bg-paper border border-line text-red hover:bg-red-wash",
};

/** The look of a button, for links that act as one. */
export function buttonLook(kind: Kind = "plain"): string {
  return clsx(
    "inline-flex min-h-8 items-center justify-center gap-1.5 rounded-md px-3 py-1 font-medium whitespace-nowrap transition-colors duration-100 disabled:opacity-45",
    LOOK[kind],
  );
}

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  kind?: Kind;
  /** What it does is being done: it keeps the focus, and does nothing more meanwhile. */
  busy?: boolean;
  ref?: Ref<HTMLButtonElement>;
}

export function Button({
  kind = "plain",
  className,
  type = "button",
  busy = false,
  onClick,
  ...rest
}: ButtonProps) {
  return (
    <button
      type={type}
      className={clsx(buttonLook(kind), busy && "opacity-45", className)}
      aria-disabled={busy || undefined}
      aria-busy={busy || undefined}
      onClick={busy ? (event) => event.preventDefault() : onClick}
      {...rest}
    />
  );
}

interface IconButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  label: string;
  /** Keys that do the same, shown in the tooltip. */
  keys?: string;
  pressed?: boolean;
  icon: LucideIcon;
  /** Whether the icon is smaller than usual. */
  small?: boolean;
  ref?: Ref<HTMLButtonElement>;
}

/** A button of one icon, with its name as label and tooltip. */
export function IconButton({ label, keys, pressed, icon: Icon, small, className, ...rest }: IconButtonProps) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>
        <button
          type="button"
          aria-label={label}
          aria-pressed={pressed}
          className={clsx(
            "inline-flex size-8 shrink-0 items-center justify-center rounded-md transition-colors duration-100 hover:bg-black/6 disabled:opacity-35",
            pressed && "bg-black/8",
            className,
          )}
          {...rest}
        >
          <Icon className={small ? "size-3.5" : "size-4"} aria-hidden />
        </button>
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={6} className="z-50 rounded-md bg-ink px-2 py-1 text-xs text-white">
          {label}
          {keys && <span className="ml-2 text-white/70">{keys}</span>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
