import { Download, Ellipsis, Pencil, Search, Trash2 } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { type Clipping, partWords } from "~/core/compose";
import { CLIPPINGS } from "~/core/templates";
import type { ClippingLine } from "~/server/campaigns/clippings";
import type { Use } from "~/server/mentions";
import { ask, tell } from "../../requests";
import { IconButton } from "../../ui/button";
import { Dialog, DialogForm } from "../../ui/dialog";
import { FileButton } from "../../ui/file-button";
import { Menu } from "../../ui/floating";
import { Input, Labelled, SearchInput } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { Switch } from "../../ui/switch";
import { counted } from "../../ui/time";
import { TruePicture } from "../../ui/true-picture";
import { pathOfUse } from "../../ui/uses";
import { loadClippings } from "../state/clippings";
import { useComposer, useComposerStore } from "../state/store";
import { useTheme } from "../state/theme";
import { useShelfItem } from "./use-shelf-item";

interface Found<One extends Clipping = Clipping> {
  clipping: One;
  /** What it is found by, in small letters. */
  text: string;
}
const found = <One extends Clipping>(clipping: One, labels: readonly string[]): Found<One> => ({
  clipping,
  text: `${clipping.name} ${clipping.part} ${labels.join(" ")}`.toLowerCase() + partWords(clipping),
});
const READY_MADE = CLIPPINGS.map((one) => found(one, []));

/** Parts kept to be used again, the workspace's own and those that come with the program. */
export default function ClippingsTab() {
  const store = useComposerStore();
  const own = useComposer((state) => state.clippings);
  const linked = useComposer((state) => state.stayLinked);
  const notify = useNotify();
  const [query, setQuery] = useState("");
  useEffect(() => void loadClippings(store), [store]);
  const wanted = query.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const fits = ({ text }: Found) => wanted.every((word) => text.includes(word));
  const kept = useMemo(() => (own ?? []).map((one) => found(one, one.labels)), [own]);
  const mine = kept.filter(fits).map(({ clipping }) => clipping);
  const ours = READY_MADE.filter(fits).map(({ clipping }) => clipping);
  const bringIn = async (file: File) => {
    const answer = await tell("/clippings", { intent: "bring", file: file.name, text: await file.text() });
    if (answer.problem !== null) notify({ text: answer.problem, bad: true });
    else {
      notify({ text: "The clipping was brought in." });
      await loadClippings(store);
    }
  };
  return (
    <div className="space-y-3 p-3">
      <SearchInput
        aria-label="Find a clipping"
        placeholder="Name, label, words in it"
        value={query}
        onChange={(event) => setQuery(event.target.value)}
      />
      <section aria-label="Your clippings" className="space-y-2.5">
        <h2 className="text-xs font-medium text-ink-soft">Yours</h2>
        {own !== null && own.length === 0 && (
          <p className="text-ink-soft">
            What you keep will be here. Select a part of the email and press “Keep as a clipping” in the
            panel.
          </p>
        )}
        {own !== null && own.length > 0 && (
          <Switch checked={linked} onChange={(stayLinked) => store.getState().set({ stayLinked })}>
            Stay linked
          </Switch>
        )}
        {mine.map((one) => (
          <Card key={one.id} clipping={one} line={one} linked={linked} />
        ))}
        {own !== null && own.length > 0 && mine.length === 0 && (
          <p className="text-ink-soft">None of them.</p>
        )}
        <FileButton
          label="Bring in a clipping"
          accept=".json,application/json"
          onFile={(file) => void bringIn(file)}
        />
      </section>
      <section aria-label="Ready-made clippings" className="space-y-2.5">
        <h2 className="text-xs font-medium text-ink-soft">Ready-made</h2>
        {ours.map((one) => (
          <Card key={one.id} clipping={one} linked={false} />
        ))}
        {ours.length === 0 && <p className="text-ink-soft">None of them.</p>}
      </section>
    </div>
  );
}

function Card({ clipping, line, linked }: { clipping: Clipping; line?: ClippingLine; linked: boolean }) {
  const theme = useTheme();
  const { props, isDragging } = useShelfItem(`clipping ${clipping.id}`, {
    kind: clipping.part,
    clipping,
    linked,
  });
  return (
    <div className="relative">
      <button
        {...props}
        data-thing={clipping.name}
        aria-label={clipping.name}
        className={`block w-full cursor-grab touch-none rounded-md text-left ${isDragging ? "opacity-50" : ""}`}
      >
        <span className="block overflow-hidden rounded-md border">
          <TruePicture
            title={`Picture of ${clipping.name}`}
            src={`/clippings/${clipping.id}/picture?theme=${encodeURIComponent(theme.id)}&revision=${line?.revision ?? 0}`}
            width={theme.width + 40}
            shown={212}
            height={84}
          />
        </span>
        <span className="mt-1 block truncate pr-8 font-medium">{clipping.name}</span>
      </button>
      {line && (line.linked > 0 || line.labels.length > 0) && (
        <p className="truncate pr-8 text-xs text-ink-soft">
          {[line.linked > 0 && `linked in ${counted(line.linked, "email")}`, ...line.labels]
            .filter(Boolean)
            .join(" · ")}
        </p>
      )}
      {line && <CardMenu line={line} />}
    </div>
  );
}

function CardMenu({ line }: { line: ClippingLine }) {
  const store = useComposerStore();
  const notify = useNotify();
  const [filing, setFiling] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [uses, setUses] = useState<Use[] | null>(null);
  const at = { kind: "clipping", id: line.id };
  const remove = async () => {
    const answer = await tell("/removals/:kind/:id", { removed: true }, { at });
    if (answer.problem !== null) notify({ text: answer.problem, bad: true });
    else
      notify({
        text: `“${line.name}” is deleted. Emails that hold it keep what they have.`,
        action: {
          label: "Undo",
          run: () =>
            void tell("/removals/:kind/:id", { removed: false }, { at }).then(() => loadClippings(store)),
        },
      });
    await loadClippings(store);
  };
  const file = async (form: FormData) => {
    const answer = await tell("/clippings", {
      intent: "file",
      id: line.id,
      name: String(form.get("name")),
      labels: String(form.get("labels")),
    });
    setProblem(answer.problem);
    if (answer.problem === null) {
      setFiling(false);
      await loadClippings(store);
    }
  };
  const entries = [
    { label: "Where it is linked", icon: Search, run: () => void showUses() },
    { label: "Name and labels", icon: Pencil, run: () => setFiling(true) },
    { label: "Delete", icon: Trash2, run: () => void remove() },
    { label: "Keep it as a file", icon: Download, file: `/clippings/${line.id}/file` },
  ];
  const showUses = async () => {
    const answer = await ask("/removals/:kind/:id", { at });
    setUses(answer.result);
    if (answer.problem !== null) notify({ text: answer.problem, bad: true });
  };
  return (
    <>
      <Menu
        button={
          <IconButton
            icon={Ellipsis}
            label={`More for ${line.name}`}
            className="absolute! top-[86px] right-0 size-7!"
          />
        }
        parts={[{ entries }]}
      />
      <Dialog open={filing} onClose={() => setFiling(false)} title="Name and labels">
        <DialogForm submit="Keep" problem={problem} onSubmit={(form) => void file(form)}>
          <Labelled label="Name">
            <Input name="name" defaultValue={line.name} required />
          </Labelled>
          <Labelled label="Labels" hint="To find it by, parted by commas.">
            <Input name="labels" defaultValue={line.labels.join(", ")} />
          </Labelled>
        </DialogForm>
      </Dialog>
      <Dialog open={uses !== null} onClose={() => setUses(null)} title={`Where “${line.name}” is linked`}>
        {uses?.length === 0 ? (
          <p className="text-ink-soft">Nowhere. Drag it into an email with “Stay linked” on.</p>
        ) : (
          <ul className="space-y-1.5">
            {uses?.map((use) => (
              <li key={use.id} className="flex gap-2">
                <a href={pathOfUse(use) ?? undefined} className="font-medium underline underline-offset-2">
                  {use.name}
                </a>
                <span className="text-ink-soft">
                  {use.held ? "scheduled or sent, stays as it is" : use.kind}
                </span>
              </li>
            ))}
          </ul>
        )}
      </Dialog>
    </>
  );
}
