import { useMemo } from "react";
import { adviseSubject, adviseText, readingEase } from "~/core/advice";
import { wordsOf } from "~/core/blocks";
import { blocksOf, type Email, inlineText, wordSigns } from "~/core/email";
import { Button } from "../../ui/button";
import { counted } from "../../ui/time";
import { Part } from "../controls/part";
import { useComposerStore } from "../state/store";

/** How easily words are read, by Flesch's figure, in words. */
export function easeWords(ease: number): string {
  return ease >= 80 ? "very easy" : ease >= 60 ? "plain" : ease >= 45 ? "a little dense" : "hard to read";
}

/** What could be better in the subject and preheader, and in the words of the whole email. */
export function WritingOfAll({ email }: { email: Email }) {
  const store = useComposerStore();
  const { subject, preheader } = email.envelope;
  const advice = adviseSubject(inlineText(subject), inlineText(preheader));
  const blocks = useMemo(
    () =>
      blocksOf(email).map((block) => {
        const texts = wordsOf(block).map(({ words }) => wordSigns(words));
        return { id: block.id, texts, found: texts.flatMap(adviseText).length };
      }),
    [email],
  );
  const found = blocks.reduce((sum, block) => sum + block.found, 0);
  const ease = readingEase(
    blocks
      .flatMap((block) => block.texts)
      .join("\n")
      .replaceAll("\ufffc", ""),
  );
  const first = blocks.find((block) => block.found > 0);
  return (
    <Part title="Writing" aside={ease !== null && `${ease}, ${easeWords(ease)}`}>
      {advice.length > 0 ? (
        <ul className="space-y-1.5">
          {advice.map(({ about, why }) => (
            <li key={why}>
              <span className="font-medium text-amber">{about === "subject" ? "Subject" : "Preheader"}</span>{" "}
              <span className="text-ink-soft">{why}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-ink-soft">Subject and preheader read well in an inbox.</p>
      )}
      {first && (
        <Button onClick={() => store.getState().select(first.id)}>
          {counted(found, "place")} in {counted(blocks.filter((block) => block.found > 0).length, "block")} to
          look at
        </Button>
      )}
    </Part>
  );
}
