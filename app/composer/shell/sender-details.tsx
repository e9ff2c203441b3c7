import { Settings2 } from "lucide-react";
import { commands } from "~/core/compose";
import { type Envelope, lineTyped, typedLine } from "~/core/email";
import { IconButton } from "../../ui/button";
import { Popover } from "../../ui/floating";
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
    <Popover
      label="Sender and recipient"
      align="end"
      className="w-96 space-y-3"
      button={
        <IconButton
          icon={Settings2}
          small
          label="Sender and recipient in detail"
          className="size-6! text-ink-soft"
        />
      }
    >
      <Labelled label="Sender’s name">
        <TypedInput
          data={facts}
          disabled={name === null}
          value={name ?? "differs from reader to reader"}
          onChange={(text) => setSender({ name: lineTyped(text) }, "Sender’s name")}
        />
      </Labelled>
      <Labelled label="Sender’s address">
        <TypedInput
          data={facts}
          inputMode="email"
          value={sender.address}
          onChange={(address) => setSender({ address }, "Sender’s address")}
        />
      </Labelled>
      <Labelled label="Answers go to" hint="Left empty, to the sender">
        <TypedInput
          data={facts}
          inputMode="email"
          value={sender.replyTo ?? ""}
          onChange={(replyTo) => setSender({ replyTo }, "Address for answers")}
        />
      </Labelled>
      <Labelled label="The reader is called" hint="Left empty, by first and last name">
        <TypedInput
          data={facts}
          disabled={recipient === null}
          value={recipient ?? "differs from reader to reader"}
          onChange={(text) => change({ to: lineTyped(text) }, "Recipient’s name")}
        />
      </Labelled>
    </Popover>
  );
}
