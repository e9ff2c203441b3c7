import { X } from "lucide-react";
import { Dialog as Radix } from "radix-ui";
import { type FocusEvent, type ReactNode, useRef, useState } from "react";
import { Button } from "./button";
import { type FocusHolder, focusHolder, giveFocus } from "./focus";
import { Problem, Unlabelled } from "./form";

interface DialogProps {
  open: boolean;
  onClose(): void;
  title: string;
  about?: string;
  wide?: boolean;
  size?: "large";
  children: ReactNode;
}

type Field = HTMLInputElement | HTMLTextAreaElement;
const valueIn = (field: Field) =>
  field instanceof HTMLInputElement && /^(checkbox|radio)$/.test(field.type) ? field.checked : field.value;

/** A dialog over the page. Where a field of a form in it is not as it was found, it asks before it is closed. */
export function Dialog({ open, onClose, title, about, wide, size, children }: DialogProps) {
  const before = useRef<FocusHolder | null>(null);
  /** The fields somebody was in, with what they held then. */
  const found = useRef(new Map<Field, string | boolean>());
  const [asking, setAsking] = useState(false);
  const noteField = ({ target, currentTarget }: FocusEvent) => {
    if (!(target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement)) return;
    const own = currentTarget.contains(target) && target.form !== null;
    if (own && !found.current.has(target)) found.current.set(target, valueIn(target));
  };
  const isWritten = () =>
    [...found.current].some(([field, value]) => field.isConnected && valueIn(field) !== value);
  return (
    <Radix.Root
      open={open}
      onOpenChange={(next) => {
        if (next) return;
        // A key that comes before the question listens is for the question, too.
        if (asking) setAsking(false);
        else if (isWritten()) setAsking(true);
        else onClose();
      }}
    >
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <Radix.Content
          onFocusCapture={noteField}
          onOpenAutoFocus={() => {
            before.current = focusHolder();
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
          <Unlabelled>{children}</Unlabelled>
          {/* Last, so that the focus goes to the content; without a tooltip, which would take the first Escape. */}
          <Radix.Close
            aria-label="Close"
            className="absolute top-5 right-5 inline-flex size-8 items-center justify-center rounded-md hover:bg-black/6"
          >
            <X className="size-4" aria-hidden />
          </Radix.Close>
          {asking && (
            <Dialog
              open
              onClose={() => setAsking(false)}
              title="Close without saving?"
              about="What you wrote here is not saved yet. If you close it, it is lost."
            >
              {/* The first has the focus. */}
              <div className="flex flex-row-reverse gap-2">
                <Button kind="primary" onClick={() => setAsking(false)}>
                  Go on writing
                </Button>
                <Button
                  onClick={() => {
                    setAsking(false);
                    onClose();
                  }}
                >
                  Close and lose it
                </Button>
              </div>
            </Dialog>
          )}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** What a dialog asks for, why it was not taken, and the button that takes it. */
export function DialogForm({
  submit,
  busy,
  disabled,
  problem,
  aside,
  onSubmit,
  children,
}: {
  /** What the button says. */
  submit: string;
  busy?: boolean;
  disabled?: boolean;
  problem?: string | null;
  /** What else can be done. */
  aside?: ReactNode;
  onSubmit(form: FormData): void;
  children: ReactNode;
}) {
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit(new FormData(event.currentTarget));
      }}
    >
      {children}
      {problem && <Problem>{problem}</Problem>}
      <div className="flex justify-end gap-2">
        {aside && <span className="mr-auto">{aside}</span>}
        <Button type="submit" kind="primary" busy={busy} disabled={disabled}>
          {submit}
        </Button>
      </div>
    </form>
  );
}
