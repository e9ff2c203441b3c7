import { Link2, Scissors } from "lucide-react";
import { useEffect, useState } from "react";
import { CommandError, cutLoose, keptPart, linkedAround, linkTo } from "~/core/compose";
import { findNode, type Located } from "~/core/email";
import type { Use } from "~/server/mentions";
import { ask, tell } from "../../requests";
import { Button } from "../../ui/button";
import { Input, Labelled, Problem } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { Switch } from "../../ui/switch";
import { counted } from "../../ui/time";
import { Part } from "../controls/part";
import { everyLinked, loadClippings } from "../state/clippings";
import { useComposer, useComposerStore } from "../state/store";

/** The linked part that the selection is or stands in; null where it is the email's own. */
export function useLinked(id: string): Located | null {
  const email = useComposer((state) => state.resting);
  return linkedAround(email, id) ?? null;
}

/** Keeps a part to be used again. */
export function KeepClipping({ node }: { node: Located }) {
  const store = useComposerStore();
  const notify = useNotify();
  const [open, setOpen] = useState(false);
  const [linked, setLinked] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);
  if (node.kind === "column" || (node.kind === "block" && node.node.type === "footer")) return null;
  const keep = async (name: string) => {
    setProblem(null);
    const found = findNode(store.getState().email, node.node.id);
    if (!found) return;
    try {
      const { part, node: kept } = keptPart(found);
      const answer = await tell("/clippings", {
        intent: "add",
        name,
        part,
        node: kept,
      });
      if (answer.problem !== null) {
        setProblem(answer.problem);
        return;
      }
      if (linked)
        store.getState().apply(linkTo(found.node.id, answer.result.clipping), "Linking the clipping");
      setOpen(false);
      notify({ text: `“${name}” is among your clippings.` });
      await loadClippings(store);
    } catch (error) {
      if (!(error instanceof CommandError)) throw error;
      setProblem(error.message);
    }
  };
  return (
    <Part title="Clipping">
      {open ? (
        <form
          className="space-y-2.5"
          onSubmit={(event) => {
            event.preventDefault();
            void keep(String(new FormData(event.currentTarget).get("name")).trim());
          }}
        >
          <Labelled label="Name of the clipping">
            <Input name="name" required maxLength={120} autoFocus />
          </Labelled>
          <Switch checked={linked} onChange={setLinked}>
            This place stays linked to it
          </Switch>
          {problem && <Problem>{problem}</Problem>}
          <div className="flex gap-2">
            <Button type="submit" kind="primary">
              Keep
            </Button>
            <Button onClick={() => setOpen(false)}>Not now</Button>
          </div>
        </form>
      ) : (
        <Button onClick={() => setOpen(true)}>
          <Scissors className="size-4" aria-hidden /> Keep as a clipping
        </Button>
      )}
    </Part>
  );
}

/** What can be done to a linked part: it is changed for every place at once, or cut loose. */
export function LinkedPart({ linked }: { linked: Located }) {
  const store = useComposerStore();
  const notify = useNotify();
  const { id, clipping: link } = linked.node as { id: string; clipping: string };
  const known = useComposer((state) => state.clippings)?.find((one) => one.id === link);
  const loaded = useComposer((state) => state.clippings !== null);
  const opened = useComposer((state) => state.opened === id);
  const [uses, setUses] = useState<Use[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    void loadClippings(store);
    void ask("/removals/:kind/:id", { at: { kind: "clipping", id: link } }).then(({ result }) =>
      setUses(result),
    );
  }, [store, link]);
  const campaign = store.getState().facts.campaign;
  const others = (uses ?? []).filter((use) => use.id !== campaign);
  const unsent = others.filter(({ held }) => !held);
  const close = () => store.getState().set({ opened: null, editing: null });
  const save = async () => {
    setProblem(null);
    store.getState().edit(null);
    const found = findNode(store.getState().email, id);
    if (!found) return;
    const answer = await tell("/clippings", {
      intent: "change",
      id: link,
      node: keptPart(found).node,
      except: campaign,
    });
    if (answer.problem !== null) {
      setProblem(answer.problem);
      return;
    }
    everyLinked(store, answer.result.clipping);
    close();
    notify({
      text: `“${answer.result.clipping.name}” is changed here and in ${counted(answer.result.changed, "other email")}.`,
    });
    await loadClippings(store);
  };
  const putBack = () => {
    store.getState().edit(null);
    if (known) everyLinked(store, known);
    close();
  };
  return (
    <Part title={known?.name ?? "Clipping"}>
      <p className="flex gap-2 text-ink-soft">
        <Link2 className="mt-0.5 size-4 shrink-0" aria-hidden />
        {opened
          ? "You are changing the clipping. Change it on the email, then save it for every place."
          : loaded && !known
            ? "This clipping was deleted. Cut it loose to change it here."
            : others.length === 0
              ? "Linked, and in no other email yet."
              : `Linked, also in ${others.map(({ name }) => `“${name}”`).join(", ")}. What is scheduled or sent stays as it is.`}
      </p>
      {problem && <Problem>{problem}</Problem>}
      <div className="flex flex-wrap gap-2">
        {opened ? (
          <>
            <Button kind="primary" onClick={() => void save()}>
              Save for every place{unsent.length > 0 && ` (${unsent.length + 1})`}
            </Button>
            <Button onClick={putBack}>Put it back</Button>
          </>
        ) : (
          <>
            {known && (
              <Button onClick={() => store.getState().set({ opened: id })}>Change it everywhere</Button>
            )}
            <Button onClick={() => store.getState().apply(cutLoose(id), "Cutting the clipping loose")}>
              <Scissors className="size-4" aria-hidden /> Cut it loose
            </Button>
          </>
        )}
      </div>
    </Part>
  );
}
