import { Switch as Radix } from "radix-ui";
import { type ReactNode, useId } from "react";

/** On or off, with its words beside it. */
export function Switch({
  checked,
  onChange,
  children,
}: {
  checked: boolean;
  onChange(checked: boolean): void;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <div className="flex min-h-7 items-center gap-2.5">
      <Radix.Root
        id={id}
        checked={checked}
        onCheckedChange={onChange}
        className="relative h-4.5 w-8 shrink-0 rounded-full bg-[#8d8797] transition-colors duration-100 data-[state=checked]:bg-mulberry"
      >
        <Radix.Thumb className="block size-3.5 translate-x-0.5 rounded-full bg-white transition-transform duration-100 data-[state=checked]:translate-x-4" />
      </Radix.Root>
      <label htmlFor={id}>{children}</label>
    </div>
  );
}
