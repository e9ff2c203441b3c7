import { lazy, Suspense, useEffect, useState } from "react";
import { commands } from "~/core/compose";
import { type Block, blocksOf, type RichDoc } from "~/core/email";
import { Choice, Input, Line } from "../../ui/form";
import { AsText } from "../dialogs/as-text";
import { LockBar } from "../saving/lock-bar";
import { TYPING, useComposer, useComposerStore } from "../state/store";
import { WordsField } from "../words/words-field";
import { InboxLine } from "./inbox-line";
import { ReaderBar } from "./reader-bar";

/** A letter in text only: its words on the left, and on the right what this reader gets, letter by letter. */
export function TextLetter({ saveNow }: { saveNow(): void }) {
  const store = useComposerStore();
  const email = useComposer((state) => state.email);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      const key = event.key.toLowerCase();
      // In words the editor takes them back itself.
      const writing = event.target instanceof HTMLElement && event.target.isContentEditable;
      if (key === "s") saveNow();
      else if (key === "z" && !writing) store.getState()[event.shiftKey ? "redo" : "undo"]();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [saveNow, store]);
  const blocks = blocksOf(email);
  const words = blocks.find(({ type }) => type === "text");
  const footer = blocks.find(({ type }) => type === "footer");
  return (
    <main className="flex h-full min-w-0 flex-col">
      <h1 className="sr-only">Compose</h1>
      <LockBar />
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-y-auto">
        <div className="min-w-0 flex-1 overflow-y-auto bg-table px-6 pt-3.5 pb-16 max-lg:overflow-visible max-sm:px-3">
          <InboxLine />
          <div className="mx-auto max-w-[660px] rounded-lg border bg-paper p-6">
            {words && <Words block={words} label="The letter" className="min-h-72" />}
            {footer && <Footer block={footer} />}
          </div>
          <p className="mx-auto mt-2 max-w-[660px] text-xs text-ink-soft">
            Type @ at the start of a word for reader data. An empty line parts paragraphs by itself.
          </p>
        </div>
        <Beside />
      </div>
      <ReaderBar />
    </main>
  );
}

function Words({ block, label, className }: { block: Block; label: string; className?: string }) {
  const store = useComposerStore();
  return (
    <WordsField
      kind="letter"
      words={block.content as RichDoc}
      label={label}
      when="idle"
      onWords={(words) =>
        store.getState().apply(commands.setAt(block.id, "content", words), "Typing", `${TYPING}${block.id}`)
      }
      className={`plain-letter font-mono text-[13px]/5 ${className ?? ""}`}
    />
  );
}

/** What stands below every letter: why it is got, who sends it, and the way out. */
function Footer({ block }: { block: Block }) {
  const store = useComposerStore();
  const brand = useComposer((state) => state.facts.brand);
  return (
    <section aria-label="Footer" className="mt-6 space-y-2 border-t pt-4 text-ink-soft">
      <Words block={block} label="Why they get it" />
      <p className="font-mono text-[13px]/5">
        {brand.name}, {brand.address}
      </p>
      <Line label="Way out">
        <Input
          maxLength={120}
          value={String(block.unsubscribeWords)}
          onChange={(event) =>
            event.target.value !== "" &&
            store
              .getState()
              .apply(
                commands.set(block.id, { unsubscribeWords: event.target.value }),
                "Wording the way out",
                "way out",
              )
          }
        />
      </Line>
    </section>
  );
}

const AskPanel = lazy(() => import("./ask-panel"));

/** Beside the words: how they are sent, or the assistant. */
function Beside() {
  const [asking, setAsking] = useState(false);
  return (
    <aside
      aria-label={asking ? "Ask" : "As it is sent"}
      className="flex w-[46%] min-w-0 flex-col gap-3 overflow-y-auto border-l bg-paper p-5 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    >
      <div className="max-w-96">
        <Choice
          label="Beside the words"
          value={asking ? "ask" : "sent"}
          onChange={(next) => setAsking(next === "ask")}
          options={[
            { value: "sent", label: "As this reader gets it" },
            { value: "ask", label: "Ask" },
          ]}
        />
      </div>
      {asking ? (
        <div className="-mx-3 max-w-xl">
          <Suspense>
            <AskPanel />
          </Suspense>
        </div>
      ) : (
        <AsText />
      )}
    </aside>
  );
}
