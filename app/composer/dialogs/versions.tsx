import { useCallback, useEffect, useMemo, useState } from "react";
import { commands, compareEmails } from "~/core/compose";
import type { Email } from "~/core/email";
import type { VersionLine } from "~/server/campaigns/versions";
import { type Answer, ask, tell } from "../../requests";
import { ChangeList } from "../../review/changes";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Input, Problem } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { timeWords } from "../../ui/time";
import { useAnswer } from "../../ui/use-answer";
import { newId, useComposer, useComposerStore } from "../state/store";
import { VersionView } from "./version-view";

/** The design as it was: to look at beside what it is now, to name, and to bring back. */
export default function VersionsDialog() {
  const store = useComposerStore();
  const notify = useNotify();
  const set = useComposer((state) => state.set);
  const email = useComposer((state) => state.email);
  const campaign = useComposer((state) => state.facts.campaign);
  const [lines, setLines] = useState<VersionLine[] | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const at = useMemo(() => ({ campaign }), [campaign]);

  const take = useCallback((answer: Answer<VersionLine[]>) => {
    if (answer.result) setLines(answer.result);
    setProblem(answer.problem);
    return answer.problem === null;
  }, []);
  useEffect(() => void ask("/campaigns/:campaign/versions", { at }).then(take), [at, take]);
  const version = useAnswer(chosen, (signal) =>
    ask("/campaigns/:campaign/versions/:version", { at: { ...at, version: chosen ?? "" }, signal }),
  );
  const shown = version.result as Email | null;
  const comparison = useMemo(() => (shown ? compareEmails(shown, email) : null), [shown, email]);
  const line = lines?.find((one) => one.id === chosen);
  const restore = () => {
    if (!shown || !line) return;
    const state = store.getState();
    state.edit(null);
    state.select(null);
    if (state.apply(commands.replaceDesign(shown, newId), "Bringing a version back")) {
      notify({ text: `The design is as it was ${timeWords(line.at, Date.now())}. Undo brings yours back.` });
      set({ dialog: null });
    }
  };
  return (
    <Dialog
      open
      onClose={() => set({ dialog: null })}
      title="Versions"
      about="Kept by themselves every ten minutes while you work, and whenever you give one a name."
      size="large"
    >
      <div className="grid grid-cols-[220px_minmax(0,1fr)] gap-6">
        <div className="space-y-4">
          <form
            className="flex gap-1.5"
            onSubmit={async (event) => {
              event.preventDefault();
              if (take(await tell("/campaigns/:campaign/versions", { intent: "keep", name }, { at })))
                setName("");
            }}
          >
            <Input
              aria-label="Name of a new version"
              placeholder="Name this moment"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <Button type="submit" disabled={name.trim() === ""}>
              Keep
            </Button>
          </form>
          {(problem ?? version.problem) && <Problem>{problem ?? version.problem}</Problem>}
          {lines === null && !problem && <p className="text-ink-soft">Fetching…</p>}
          {lines?.length === 0 && (
            <p className="text-ink-soft">The first one is kept with your first change. Or name one now.</p>
          )}
          <ol className="max-h-[56vh] space-y-0.5 overflow-y-auto" aria-label="Versions, newest first">
            {lines?.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  aria-current={one.id === chosen}
                  onClick={() => setChosen(one.id)}
                  className="block w-full rounded-md px-2 py-1.5 text-left hover:bg-black/5 aria-[current=true]:bg-mulberry-wash"
                >
                  <span className={`block truncate ${one.name ? "font-semibold" : "text-ink-soft"}`}>
                    {one.name ?? "Kept by itself"}
                  </span>
                  <span className="text-xs text-ink-soft">{timeWords(one.at, Date.now())}</span>
                </button>
              </li>
            ))}
          </ol>
        </div>
        <div>
          {chosen === null && (
            <p className="text-ink-soft">Choose a version to see it beside the design as it is now.</p>
          )}
          {version.waiting && <p className="text-ink-soft">Drawing…</p>}
          {shown && comparison && line && (
            <div className="space-y-3">
              <div className="grid grid-cols-2 gap-4">
                <div>
                  <h3 className="mb-1.5 font-semibold">{line.name ?? timeWords(line.at, Date.now())}</h3>
                  <VersionView email={shown} comparison={comparison} side="before" label="The version" />
                </div>
                <div>
                  <h3 className="mb-1.5 font-semibold">Now</h3>
                  <VersionView email={email} comparison={comparison} side="after" label="The design now" />
                </div>
              </div>
              <ChangeList of={comparison} />
              <div className="flex justify-end gap-2">
                <NameForm
                  key={line.id}
                  line={line}
                  onName={async (next) =>
                    take(
                      await tell(
                        "/campaigns/:campaign/versions",
                        { intent: "name", id: line.id, name: next },
                        { at },
                      ),
                    )
                  }
                />
                <Button kind="primary" onClick={restore}>
                  Bring this version back
                </Button>
              </div>
            </div>
          )}
        </div>
      </div>
    </Dialog>
  );
}

function NameForm({ line, onName }: { line: VersionLine; onName(name: string): void }) {
  const [name, setName] = useState(line.name ?? "");
  return (
    <form
      className="flex gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        onName(name);
      }}
    >
      <Input
        aria-label="Name of this version"
        placeholder="Give it a name"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" disabled={name === (line.name ?? "")}>
        Name it
      </Button>
    </form>
  );
}
