import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { useRevalidator, useSearchParams } from "react-router";
import { type Lookup, LookupSchema } from "~/core/email";
import { ruleWords } from "~/server/audience/words";
import { usesOf } from "~/server/mentions";
import { lookupsOf } from "~/server/workspace/lookups";
import { brandOf } from "~/server/workspace/settings";
import { KINDS, LookupForm } from "../lookups/lookup-form";
import { tell } from "../requests";
import { Button, IconButton } from "../ui/button";
import { Input } from "../ui/form";
import { useNotify } from "../ui/notices";
import { Empty, Page } from "../ui/page";
import { RemoveDialog } from "../ui/remove-button";
import { counted } from "../ui/time";
import type { Route } from "./+types/lookups";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  const [lookups, words, brand] = await Promise.all([
    lookupsOf(septima),
    ruleWords(septima),
    brandOf(septima),
  ]);
  const keys = lookups.map(({ key }) => key);
  return { lookups, uses: await usesOf(septima.db, "lookup", keys), words, brand };
}

export default function Lookups({ loaderData: { lookups, uses, words, brand } }: Route.ComponentProps) {
  const [params, setParams] = useSearchParams();
  const { revalidate } = useRevalidator();
  const notify = useNotify();
  const [query, setQuery] = useState("");
  const wanted = params.get("lookup");
  const making = wanted === "new";
  const chosen = making ? null : (lookups.find(({ key }) => key === wanted) ?? lookups[0] ?? null);
  const open = (key: string) => setParams({ lookup: key }, { replace: true });
  // A lookup asks no other.
  const data = { words, brand, tags: {} };
  const shown = lookups.filter(({ name }) => name.toLowerCase().includes(query.trim().toLowerCase()));

  const save = async (lookup: Lookup, revision: number | null) => {
    const { problem } = await tell("/lookups/change", { intent: "save", lookup, revision });
    if (problem) return problem;
    open(lookup.key);
    await revalidate();
    notify({ text: `“${lookup.name}” is saved.` });
    return null;
  };
  /** The key of the one that somebody is about to remove. */
  const [asked, setAsked] = useState<string | null>(null);
  const usesOfKey = (key: string) => uses.filter(({ keys }) => keys.includes(key));
  const remove = async (key: string) => {
    setAsked(null);
    const { problem, result } = await tell("/lookups/change", { intent: "remove", key });
    if (!result) return notify({ text: problem ?? "It could not be removed.", bad: true });
    setParams({}, { replace: true });
    await revalidate();
    notify({
      text: `“${result.name}” was removed.`,
      action: { label: "Undo", run: () => void save(result, null) },
    });
  };
  return (
    <Page
      title="Lookups"
      about="Named values that differ from reader to reader: written once, used in every campaign"
      actions={
        <Button kind="primary" onClick={() => open("new")}>
          <Plus className="size-4" aria-hidden /> Lookup
        </Button>
      }
    >
      <div className="grid grid-cols-[280px_minmax(0,1fr)] items-start gap-5 max-lg:grid-cols-1">
        <div className="space-y-2">
          {lookups.length >= 10 && (
            <Input
              aria-label="Search lookups"
              placeholder="Search"
              value={query}
              onChange={(event) => setQuery(event.target.value)}
            />
          )}
          <ul className="card max-h-[75vh] divide-y overflow-y-auto">
            {lookups.length === 0 && <li className="p-3 text-ink-soft">None yet.</li>}
            {shown.map(({ key, name, kind, cases }) => (
              <li
                key={key}
                className="flex items-center hover:bg-black/3 has-aria-[current=true]:bg-[#f3f2f5]"
              >
                <button
                  type="button"
                  aria-current={key === chosen?.key}
                  onClick={() => open(key)}
                  className="min-w-0 grow px-3 py-2 text-left"
                >
                  <span className="block truncate font-semibold">{name}</span>
                  <span className="block truncate text-ink-soft">
                    {KINDS[kind]}, {counted(cases.length, "case")},{" "}
                    {usesOfKey(key).length === 0
                      ? "used nowhere"
                      : `used in ${counted(usesOfKey(key).length, "place")}`}
                  </span>
                </button>
                <IconButton
                  icon={Trash2}
                  label={`Remove “${name}”`}
                  className="mr-1.5"
                  onClick={() => setAsked(key)}
                />
              </li>
            ))}
          </ul>
        </div>
        <RemoveDialog
          open={asked !== null}
          name={lookups.find(({ key }) => key === asked)?.name ?? ""}
          uses={usesOfKey(asked ?? "")}
          consequence="Tags that ask for it will write what they fall back to; those without a fallback stop a sending."
          onKeep={() => setAsked(null)}
          onRemove={() => void remove(asked ?? "")}
        />
        {making || chosen ? (
          <LookupForm
            key={making ? "new" : `${chosen?.key} ${chosen?.revision}`}
            lookup={chosen && LookupSchema.parse(chosen)}
            taken={lookups.map(({ key }) => key)}
            words={words}
            data={data}
            onSave={(lookup) => save(lookup, chosen?.revision ?? null)}
          />
        ) : (
          <Empty title="What depends on the reader, in one place">
            The phone of their branch, their adviser, where a button leads: say once who gets which, then put
            it into subjects, sentences, links and senders with <kbd>@</kbd>.
          </Empty>
        )}
      </div>
    </Page>
  );
}
