import { useMemo } from "react";
import { commands } from "~/core/compose";
import { resolveTheme, TEXT_PART } from "~/core/email";
import { bind, personalise, previewAddresses, readerOf } from "~/core/personal";
import { compile } from "~/core/render";
import { Choice, Line } from "../../ui/form";
import { NumberField } from "../../ui/number-field";
import { useComposer, useComposerStore, worldOf } from "../state/store";

/** The text that this reader gets, letter by letter, and how it is written. */
export function AsText() {
  const store = useComposerStore();
  const email = useComposer((state) => state.email);
  const reader = useComposer((state) => state.reader);
  const facts = useComposer((state) => state.facts);
  const part = email.textPart ?? TEXT_PART;
  const { text } = useMemo(() => {
    const theme = resolveTheme(email.theme, facts.themes);
    const program = compile(email, {
      ...facts.tags,
      theme,
      brand: facts.brand,
      origin: location.origin,
    });
    const bound = bind(program, worldOf(facts));
    return personalise(bound, readerOf(reader, email.language, previewAddresses(location.origin)));
  }, [email, facts, reader]);
  const change = (next: Partial<typeof part>) =>
    store
      .getState()
      .apply(commands.setWhole({ textPart: { ...part, ...next } }), "Changing the text part", "text part");
  return (
    <>
      <div className="flex flex-wrap gap-x-8 gap-y-2">
        <Line label="Wrapped at">
          <div className="flex items-center gap-2">
            <NumberField
              className="w-20!"
              max={200}
              value={part.width}
              onChange={(width) => change({ width })}
            />
            <span className="text-xs text-ink-soft">{part.width === 0 ? "never" : "characters"}</span>
          </div>
        </Line>
        <Line label="Links">
          <Choice
            label="Links in the text part"
            value={part.links}
            onChange={(links) => change({ links })}
            options={[
              { value: "inline", label: "In place" },
              { value: "numbered", label: "Numbered" },
            ]}
          />
        </Line>
      </div>
      <pre
        className="grow overflow-auto rounded-md border bg-[#fafafb] p-3 font-mono text-xs/5"
        data-testid="text-part"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
        tabIndex={0}
      >
        {text}
      </pre>
    </>
  );
}
