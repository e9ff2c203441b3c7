import { useMemo, useState } from "react";
import type { Placeholder } from "~/core/apart";
import { blockType, createBlock } from "~/core/blocks";
import { commands, type Renaming, renamed } from "~/core/compose";
import { type Block, blocksOf, type Email } from "~/core/email";
import type { Intake } from "~/server/intake/intake";
import { Button } from "../../../ui/button";
import { Choose } from "../../../ui/choose";
import { FileButton } from "../../../ui/file-button";
import { Problem } from "../../../ui/form";
import { useNotify } from "../../../ui/notices";
import { Progress } from "../../../ui/progress";
import { Switch } from "../../../ui/switch";
import { counted } from "../../../ui/time";
import { knowPictures } from "../../controls/pictures";
import { useActions } from "../../state/actions";
import { newId, useComposer, useComposerStore } from "../../state/store";
import { bringLetter, fileFor, type Wishes, webPictures } from "./bring";
import { Strangers, strangersIn } from "./strangers";

/** How many blocks of each kind there are, in words. */
function kindsIn(blocks: readonly Block[]): string {
  const kinds = new Map<string, number>();
  for (const { type } of blocks) {
    const label = (blockType(type)?.label ?? type).toLowerCase();
    kinds.set(label, (kinds.get(label) ?? 0) + 1);
  }
  return [...kinds].map(([label, count]) => `${count} × ${label}`).join(", ");
}

/** What was read, what of it is not kept, and what is to be done with it. Nothing has changed yet. */
export function Found({ found, onBack, onDone }: { found: Intake; onBack(): void; onDone(): void }) {
  const store = useComposerStore();
  const actions = useActions();
  const notify = useNotify();
  const { whole, lost, email, apart, kind, placeholders, missing } = found;
  const sections = apart?.sections ?? [];
  const blocks = apart ? blocksOf({ sections } as unknown as Email) : found.blocks;
  const web = webPictures(sections);
  const [wishes, setWishes] = useState<Wishes>({
    filled: Object.fromEntries(
      placeholders.flatMap(({ text, field }) => (field === null ? [] : [[text, { field }]])),
    ),
    look: true,
    web: false,
    given: [],
  });
  const facts = useComposer((state) => state.facts);
  const strangers = useMemo(() => (email ? strangersIn(email, facts) : []), [email, facts]);
  const [renaming, setRenaming] = useState<Renaming>(new Map());
  const [working, setWorking] = useState<{ done: number; of: number } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const add = (added: readonly Block[], label: string) => {
    knowPictures(store, found.pictures);
    if (actions.addBlocks(added, label))
      notify({ text: `${counted(added.length, "block")} came in. Undo takes them out.` });
    onDone();
  };
  const replace = () => {
    if (!email) return;
    const state = store.getState();
    state.edit(null);
    state.select(null);
    if (state.apply(commands.replaceDesign(renamed(email, renaming), newId), "Bringing a design in"))
      notify({ text: "The design took the place of the one before. Undo brings that back." });
    onDone();
  };
  const bring = async (how: "replace" | "below") => {
    setProblem(null);
    try {
      const failed = await bringLetter(store, found, how, wishes, (done, of) => setWorking({ done, of }));
      notify(
        failed.length > 0
          ? {
              text: `The letter came in, but ${counted(failed.length, "picture")} did not: ${failed[0]}`,
              bad: true,
            }
          : { text: "The letter came in. Undo takes it out again." },
      );
      onDone();
    } catch (error) {
      setProblem((error as Error).message);
    }
    setWorking(null);
  };
  return (
    <div className="space-y-4">
      <div>
        <p>
          This is {kind}
          {blocks.length > 0 && (
            <>
              {" "}
              with{" "}
              {apart
                ? `${counted(sections.length, "section")} and ${counted(blocks.length, "block")}`
                : counted(blocks.length, "block")}
              : {kindsIn(blocks)}
            </>
          )}
          .
        </p>
        {apart && (apart.subject !== "" || apart.preheader !== "") && (
          <p className="mt-1 truncate">
            <strong>{apart.subject || "No subject"}</strong>{" "}
            <span className="text-ink-soft">{apart.preheader}</span>
          </p>
        )}
      </div>
      {blocks.length === 0 && !email && whole === null && (
        <Problem mild>Nothing in it can become a block: it holds no words and no pictures.</Problem>
      )}
      {placeholders.length > 0 && (
        <Placeholders
          placeholders={placeholders}
          filled={wishes.filled}
          onChange={(filled) => setWishes((before) => ({ ...before, filled }))}
        />
      )}
      {strangers.length > 0 && (
        <Strangers
          strangers={strangers}
          names={found.names}
          facts={facts}
          renaming={renaming}
          onChange={setRenaming}
        />
      )}
      {missing.length > 0 && (
        <Missing
          missing={missing}
          given={wishes.given}
          onGive={(file) => setWishes((before) => ({ ...before, given: [...before.given, file] }))}
        />
      )}
      <Lost
        title={whole === null ? "Could not be kept" : "Taken apart, these are not kept"}
        what={lost.apart}
      />
      {whole !== null && <Lost title="Kept whole, these are not kept" what={lost.whole} />}
      {apart && (
        <div className="space-y-2">
          <Switch checked={wishes.look} onChange={(look) => setWishes((before) => ({ ...before, look }))}>
            Keep its look as a theme, “{apart.theme.name}”
          </Switch>
          {web.length > 0 && (
            <Switch checked={wishes.web} onChange={(on) => setWishes((before) => ({ ...before, web: on }))}>
              Take {counted(web.length, "picture")} over from the web into the library
            </Switch>
          )}
        </div>
      )}
      {working && (
        <div role="status" className="space-y-1.5">
          <p>
            {working.of > 0 ? `Taking pictures over: ${working.done} of ${working.of}…` : "Bringing it in…"}
          </p>
          <Progress share={working.of > 0 ? working.done / working.of : null} label="Brought in so far" />
        </div>
      )}
      {problem && <Problem>{problem}</Problem>}
      <div className="flex flex-wrap justify-end gap-2">
        <Button kind="quiet" onClick={onBack}>
          Back
        </Button>
        {whole !== null && (
          <Button
            disabled={working !== null}
            onClick={() => add([{ ...createBlock("code", newId()), ...whole }], "Keeping an email whole")}
          >
            Keep it whole in a code block
          </Button>
        )}
        {apart && blocks.length > 0 && (
          <>
            <Button disabled={working !== null} onClick={() => void bring("below")}>
              Add it below
            </Button>
            <Button kind="primary" disabled={working !== null} onClick={() => void bring("replace")}>
              Take it apart in place of this design
            </Button>
          </>
        )}
        {email && (
          <Button kind="primary" onClick={replace}>
            Replace this design
          </Button>
        )}
        {!apart && !email && blocks.length > 0 && (
          <Button kind="primary" onClick={() => add(blocks, "Bringing writing in")}>
            Add {counted(blocks.length, "block")}
          </Button>
        )}
      </div>
    </div>
  );
}

/** What another program would have filled in, with the field that takes its place. */
function Placeholders({
  placeholders,
  filled,
  onChange,
}: {
  placeholders: readonly Placeholder[];
  filled: Wishes["filled"];
  onChange(filled: Wishes["filled"]): void;
}) {
  const fields = useComposer((state) => state.facts.words.fields);
  return (
    <section aria-label="Placeholders" className="rounded-md border px-3 py-2">
      <p className="font-medium">
        {counted(placeholders.length, "placeholder was", "placeholders were")} left in it. What is each?
      </p>
      <ul className="mt-2 max-h-56 space-y-1.5 overflow-y-auto">
        {placeholders.map(({ text, count, around }) => {
          const what = filled[text];
          const value = what === undefined ? "words" : what === "nothing" ? "nothing" : `field ${what.field}`;
          return (
            <li key={text} className="grid grid-cols-[minmax(0,1fr)_200px] items-center gap-3">
              <span className="min-w-0">
                <code className="font-mono text-xs break-all">{text}</code>
                <span className="block truncate text-xs text-ink-soft">
                  {count > 1 && `${count} times, `}in “{around}”
                </span>
              </span>
              <Choose
                label={`What ${text} is`}
                value={value}
                options={[
                  { value: "words", label: "Words, left as they are" },
                  { value: "nothing", label: "Nothing, taken out" },
                  ...fields.map(({ key, label }) => ({ value: `field ${key}`, label })),
                ]}
                onChange={(next) => {
                  const { [text]: _, ...rest } = filled;
                  onChange(
                    next === "words"
                      ? rest
                      : { ...rest, [text]: next === "nothing" ? "nothing" : { field: next.slice(6) } },
                  );
                }}
              />
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Pictures that are named and did not come, asked for. */
function Missing({
  missing,
  given,
  onGive,
}: {
  missing: readonly string[];
  given: readonly File[];
  onGive(file: File): void;
}) {
  const left = missing.filter((address) => !fileFor(address, given));
  return (
    <section aria-label="Pictures that did not come" className="rounded-md border px-3 py-2">
      <div className="flex items-center gap-3">
        <p className="grow">
          <span className="font-medium">
            {left.length === 0
              ? "All pictures that it names are there now."
              : `${counted(left.length, "picture")} did not come with it.`}
          </span>{" "}
          {left.length > 0 &&
            "Give the files, or bring in a .zip that holds them. Otherwise their places wait."}
        </p>
        {left.length > 0 && <FileButton label="Give pictures" accept="image/*" many onFile={onGive} />}
      </div>
      {left.length > 0 && <p className="mt-1 truncate text-xs text-ink-soft">{left.join(", ")}</p>}
    </section>
  );
}

function Lost({ title, what }: { title: string; what: readonly string[] }) {
  if (what.length === 0) return null;
  return (
    <div className="rounded-md bg-amber-wash px-3 py-2 text-amber">
      <p className="font-medium">{title}:</p>
      <ul className="mt-1 list-disc pl-5">
        {what.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </div>
  );
}
