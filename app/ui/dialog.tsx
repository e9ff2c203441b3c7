import { X } from "lucide-react";
import { Dialog as Radix } from "radix-ui";
import { type ReactNode, useRef } from "react";
import { deepFocus, giveFocus } from "./focus";

interface DialogProps {
  open: boolean;
  onClose(): void;
  title: string;
  about?: string;
  wide?: boolean;
  size?: "large";
  children: ReactNode;
}

export function Dialog({ open, onClose, title, about, wide, size, children }: DialogProps) {
  const before = useRef<HTMLElement | null>(null);
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <Radix.Content
          onOpenAutoFocus={() => {
            before.current = deepFocus();
          }}
          onCloseAutoFocus={(event) => {
            // Whatever opened it, the focus goes back to where it was, and never to the page.
            event.preventDefault();
            giveFocus(before.current);
          }}
          onEscapeKeyDown={(event) => {
            // Escape in words ends the writing, not what is around it.
            if ((event.target as HTMLElement).isContentEditable) event.preventDefault();
          }}
          onInteractOutside={(event) => {
            if ((event.target as HTMLElement).closest?.("[data-floating]")) event.preventDefault();
          }}
          aria-describedby={about ? undefined : ""}
          className={`fixed top-1/2 left-1/2 z-40 max-h-[90vh] w-[calc(100vw-2rem)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg bg-paper p-6 shadow-2xl outline-none ${size === "large" ? "max-w-6xl" : wide ? "max-w-3xl" : "max-w-lg"}`}
        >
          <div className="mb-4 pr-10">
            <Radix.Title className="text-lg font-semibold">{title}</Radix.Title>
            {about && <Radix.Description className="text-ink-soft">{about}</Radix.Description>}
          </div>
          {children}
          {/* Last, so that the focus goes to the content; without a tooltip, which would take the first Escape. */}
          <Radix.Close
            aria-label="Close"
            className="absolute top-5 right-5 inline-flex size-8 items-center justify-center rounded-md hover:bg-black/6"
          >
            <X className="size-4" aria-hidden />
          </Radix.Close>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
