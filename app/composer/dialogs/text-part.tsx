import { useMemo } from "react";
import { blockTitle } from "~/core/blocks";
import { commands } from "~/core/compose";
import { type Block, type Email, type Inline, resolveTheme, walk } from "~/core/email";
import { blockText, type CompileOptions } from "~/core/render";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Difference } from "../../ui/difference";
import { useComposer, useComposerStore } from "../state/store";
import { WordsField } from "../words/words-field";
import { AsText } from "./as-text";

/** Words in one string, with tags by their field: what tells whether the design has changed since. */
function basisOf(words: readonly Inline[]): string {
  return words
    .map((it) =>
      it.type === "text"
        ? it.text
        : it.type === "hardBreak"
          ? "\n"
          : it.type === "either"
            ? JSON.stringify(it.attrs)
            : `‹${it.attrs.field.replaceAll("_", " ")}›`,
    )
    .join("");
}

/** The plain-text part: as this reader gets it, and block by block to write it differently. */
export default function TextPartDialog() {
  const set = useComposer((state) => state.set);
  const email = useComposer((state) => state.email);
  const facts = useComposer((state) => state.facts);
  const options: CompileOptions = useMemo(
    () => ({
      ...facts.tags,
      theme: resolveTheme(email.theme, facts.themes),
      brand: facts.brand,
      origin: location.origin,
    }),
    [email.theme, facts],
  );
  const blocks = [...walk(email)].flatMap((it) => (it.kind === "block" ? [it.node] : []));
  return (
    <Dialog
      open
      onClose={() => set({ dialog: null })}
      title="Text part"
      about="What readers get whose mail program shows no HTML. It is made from the design until you write a block’s words yourself."
      size="large"
    >
      <div className="grid grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-6">
        <div>
          <h3 className="mb-2 font-semibold">Block by block</h3>
          <ol className="max-h-[62vh] space-y-3 overflow-x-hidden overflow-y-auto pr-1">
            {blocks.map((block) => (
              <li key={block.id}>
                <BlockWords block={block} email={email} options={options} />
              </li>
            ))}
          </ol>
        </div>
        <div className="flex max-h-[66vh] min-w-0 flex-col gap-2">
          <h3 className="font-semibold">As this reader gets it</h3>
          <AsText />
        </div>
      </div>
    </Dialog>
  );
}

function BlockWords({ block, email, options }: { block: Block; email: Email; options: CompileOptions }) {
  const store = useComposerStore();
  const made = blockText(block, email, options);
  const { apply } = store.getState();
  const title = blockTitle(block);
  if (made === null) {
    return (
      <section className="rounded-md border border-teal/30 p-2.5">
        <h4 className="truncate text-xs font-medium text-teal">{title}</h4>
        <p className="text-ink-soft">Live content: its words come with its source.</p>
      </section>
    );
  }
  const basis = basisOf(made);
  const own = block.ownText;
  if (basis === "" && !own) return null;
  const moved = own !== undefined && own.basis !== basis;
  const keep = (words: Inline[]) =>
    apply(
      commands.set(block.id, { ownText: { words, basis: own?.basis ?? basis } }),
      "Writing the text part",
      `own text ${block.id}`,
    );
  return (
    <section
      className={`rounded-md border p-2.5 ${moved ? "border-amber" : ""}`}
      aria-label={`Text of ${title}`}
    >
      <div className="mb-1 flex items-center justify-between gap-2">
        <h4 className="truncate text-xs font-medium text-ink-soft">{title}</h4>
        {own ? (
          <span className="flex shrink-0 items-center gap-1 text-xs">
            <span className="text-mulberry">Own words</span>
            <Button
              kind="quiet"
              className="min-h-6! px-1.5! text-xs"
              onClick={() =>
                apply(commands.set(block.id, { ownText: undefined }), "Taking the design’s words")
              }
            >
              Take the design’s
            </Button>
          </span>
        ) : (
          <Button kind="quiet" className="min-h-6! px-1.5! text-xs" onClick={() => keep(made)}>
            Write it yourself
          </Button>
        )}
      </div>
      {own ? (
        <WordsField
          kind="lines"
          words={own.words}
          label={`Words of ${title}`}
          onWords={(words) => keep(words as Inline[])}
          className="field own-words font-mono text-xs/5"
        />
      ) : (
        <p className="font-mono text-xs/5 whitespace-pre-wrap">{basis}</p>
      )}
      {moved && own && (
        <div className="mt-2 rounded-md bg-amber-wash px-2.5 py-2">
          <p className="mb-1 text-xs font-medium text-amber">The design has changed since:</p>
          <p className="font-mono text-xs/5 whitespace-pre-wrap">
            <Difference before={own.basis} after={basis} />
          </p>
          <div className="mt-1.5 flex gap-2">
            <Button
              className="min-h-6! px-2! text-xs"
              onClick={() =>
                apply(commands.set(block.id, { ownText: undefined }), "Taking the design’s words")
              }
            >
              Take it over
            </Button>
            <Button
              kind="quiet"
              className="min-h-6! px-2! text-xs"
              onClick={() =>
                apply(commands.set(block.id, { ownText: { ...own, basis } }), "Keeping own words")
              }
            >
              Keep mine
            </Button>
          </div>
        </div>
      )}
    </section>
  );
}
