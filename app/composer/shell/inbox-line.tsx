import type { Editor } from "@tiptap/core";
import { UserRound } from "lucide-react";
import { useState } from "react";
import { commands } from "~/core/compose";
import { type Inline, typedTag } from "~/core/email";
import { lineSaid, typedSaid } from "~/core/personal";
import { IconButton } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { useDeskWidth } from "../canvas/canvas";
import { say, shownEmail } from "../state/language";
import { useComposer, useComposerStore } from "../state/store";
import { around } from "../state/values";
import { EmojiButton } from "../words/emoji";
import { askForData } from "../words/insert";
import { WordsField } from "../words/words-field";
import { SenderDetails } from "./sender-details";

const LIMITS = { subject: { good: 60, cut: 70 }, preheader: { good: 110, cut: 110 } };

/** The email as a line in an inbox, edited right there: sender, subject, preheader. */
export function InboxLine() {
  const sender = useComposer((state) => state.email.envelope.sender);
  const name = useComposer((state) => shownEmail(state).envelope.sender.name);
  const senders = useComposer((state) => state.facts.brand.senders);
  const store = useComposerStore();
  const desk = useDeskWidth();
  const lookups = useComposer((state) => state.facts.tags.lookups) ?? [];
  const persons = lookups.filter(({ kind }) => kind === "person").map(personSender);
  const known = [...senders, ...persons].some((one) => one.address === sender.address);
  const reader = useComposer((state) => state.reader);
  const email = useComposer((state) => state.resting);
  const facts = useComposer((state) => state.facts);
  const about = around({ email, facts, reader });
  const shown = lineSaid(name, reader, about).trim();
  return (
    <section
      aria-label="As the inbox shows it"
      className="mx-auto mb-3 flex max-w-full gap-3 rounded-lg border bg-paper px-3.5 py-2.5 max-sm:mx-2 max-sm:max-w-[calc(100%-1rem)]"
      style={{ width: desk }}
    >
      <span
        className="mt-0.5 grid size-8.5 shrink-0 place-items-center rounded-full bg-ink font-semibold text-white"
        aria-hidden
      >
        {[...shown][0]?.toUpperCase() ?? "?"}
      </span>
      <div className="min-w-0 grow">
        <div className="flex items-center gap-1">
          <Choose
            label="Sender"
            className="-ml-1 w-fit! max-w-full border-transparent! px-1! py-0! font-semibold hover:bg-black/4"
            value={sender.address}
            placeholder="Choose a sender"
            onChange={(address) => {
              const chosen = [...senders, ...persons].find((one) => one.address === address);
              if (chosen)
                store.getState().apply(
                  commands.setEnvelope({
                    sender: {
                      name: "line" in chosen ? chosen.line : [{ type: "text", text: chosen.name }],
                      address: chosen.address,
                      ...("replyTo" in chosen && chosen.replyTo && { replyTo: chosen.replyTo }),
                    },
                  }),
                  "Sender",
                );
            }}
            options={[
              ...(known || sender.address === ""
                ? []
                : [
                    {
                      value: sender.address,
                      label: `${shown} <${typedSaid(sender.address, reader, about)}>`,
                    },
                  ]),
              ...senders.map((one) => ({ value: one.address, label: `${one.name} <${one.address}>` })),
              ...persons.map(({ address, name }) => ({ value: address, label: name, aside: "lookup" })),
            ]}
          />
          <SenderDetails />
        </div>
        <LineEditor
          part="subject"
          label="Subject"
          placeholder="Subject: what it is, in one line"
          className="font-medium"
        />
        <LineEditor
          part="preheader"
          label="Preheader"
          placeholder="Preheader: the words the inbox shows after the subject"
          className="text-ink-soft"
        />
      </div>
    </section>
  );
}

/** A person of a lookup as the sender: each reader's own. */
const personSender = ({ name, key }: { name: string; key: string }) => ({
  name,
  address: typedTag({ field: `lookup.${key}.address`, fallback: "", format: "asIs" }),
  line: [
    { type: "mergeTag" as const, attrs: { field: `lookup.${key}`, fallback: "", format: "asIs" as const } },
  ],
});

function LineEditor({
  part,
  label,
  placeholder,
  className,
}: {
  part: "subject" | "preheader";
  label: string;
  placeholder: string;
  className: string;
}) {
  const store = useComposerStore();
  const [editor, setEditor] = useState<Editor | null>(null);
  const content = useComposer((state) => shownEmail(state).envelope[part]);
  const reader = useComposer((state) => state.reader);
  const email = useComposer((state) => state.resting);
  const facts = useComposer((state) => state.facts);
  const words = lineSaid(content, reader, around({ email, facts, reader })).trim();

  const { good, cut } = LIMITS[part];
  const length = [...words].length;
  return (
    <div className={`group/line relative flex items-baseline gap-2 ${className}`}>
      <WordsField
        kind="plain"
        words={content}
        label={label}
        placeholder={placeholder}
        when="idle"
        onEditor={setEditor}
        onFocus={() => store.getState().select(null)}
        onWords={(words) =>
          say(store, { block: null, path: part }, words as Inline[], {
            label: `Changing the ${part}`,
            merge: part,
          })
        }
        className="line-editor min-w-0 grow"
        style={{ "--placeholder": JSON.stringify(placeholder) } as React.CSSProperties}
        data-empty={content.length === 0}
        hidden={!editor}
      />
      {/* Until the editor is here. */}
      {!editor && (
        <p className="min-w-0 grow wrap-break-word">
          {words || <span className="text-ink-soft">{placeholder}</span>}
        </p>
      )}
      {editor && (
        <EmojiButton
          className="size-5! opacity-0 group-focus-within/line:opacity-100 group-hover/line:opacity-100"
          label={`Emoji in the ${part}`}
          onChoose={(emoji) => editor.chain().focus().insertContent(emoji).run()}
        />
      )}
      {editor && (
        <IconButton
          icon={UserRound}
          small
          label={`Reader data in the ${part}`}
          keys="@"
          className="size-5! text-teal opacity-0 group-focus-within/line:opacity-100 group-hover/line:opacity-100"
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => askForData(editor)}
        />
      )}
      <span
        className={`shrink-0 text-xs ${length > cut ? "font-semibold text-amber" : "text-ink-soft"}`}
        title={length > cut ? "Phones cut it off" : undefined}
      >
        {length > cut ? `${length}, cut at ${cut}` : `${length} of ${good}`}
      </span>
    </div>
  );
}
