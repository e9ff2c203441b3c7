import { Settings2 } from "lucide-react";
import { Popover } from "radix-ui";
import { commands } from "~/core/compose";
import { type Envelope, lineTyped, typedLine } from "~/core/email";
import { IconButton } from "../../ui/button";
import { Labelled } from "../../ui/form";
import { TypedInput } from "../../ui/typed-field";
import { useComposer, useComposerStore } from "../state/store";

/** The sender to the letter, where answers go, and what the reader is called: each may differ from reader to reader. */
export function SenderDetails() {
  const { sender, to } = useComposer((state) => state.email.envelope);
  const facts = useComposer((state) => state.facts);
  const store = useComposerStore();
  const change = (part: Partial<Envelope>, what: string) =>
    store.getState().apply(commands.setEnvelope(part), what, `envelope ${what}`);
  const setSender = (part: Partial<Envelope["sender"]>, what: string) => {
    const { replyTo, ...rest } = { ...store.getState().email.envelope.sender, ...part };
    change({ sender: { ...rest, ...(replyTo && { replyTo }) } }, what);
  };
  const name = typedLine(sender.name);
  const recipient = typedLine(to ?? []);
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <IconButton label="Sender and recipient in detail" className="size-6! text-ink-soft">
          <Settings2 className="size-3.5" />
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          aria-label="Sender and recipient"
          onInteractOutside={(event) => {
            if ((event.target as HTMLElement).closest?.("[data-floating]")) event.preventDefault();
          }}
          className="z-40 w-96 max-w-[calc(100vw-1rem)] space-y-3 rounded-lg border bg-paper p-4 shadow-xl"
        >
          <Labelled label="Sender’s name">
            {(id) => (
              <TypedInput
                id={id}
                data={facts}
                disabled={name === null}
                value={name ?? "differs from reader to reader"}
                onChange={(text) => setSender({ name: lineTyped(text) }, "Sender’s name")}
              />
            )}
          </Labelled>
          <Labelled label="Sender’s address">
            {(id) => (
              <TypedInput
                id={id}
                data={facts}
                inputMode="email"
                value={sender.address}
                onChange={(address) => setSender({ address }, "Sender’s address")}
              />
            )}
          </Labelled>
          <Labelled label="Answers go to" hint="Left empty, to the sender">
            {(id) => (
              <TypedInput
                id={id}
                data={facts}
                inputMode="email"
                value={sender.replyTo ?? ""}
                onChange={(replyTo) => setSender({ replyTo }, "Address for answers")}
              />
            )}
          </Labelled>
          <Labelled label="The reader is called" hint="Left empty, by first and last name">
            {(id) => (
              <TypedInput
                id={id}
                data={facts}
                disabled={recipient === null}
                value={recipient ?? "differs from reader to reader"}
                onChange={(text) => change({ to: lineTyped(text) }, "Recipient’s name")}
              />
            )}
          </Labelled>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
