import { ArrowLeft, Plus } from "lucide-react";
import { useState } from "react";
import { Link, useRevalidator } from "react-router";
import { fieldUses } from "~/server/audience/fields";
import { recordTables } from "~/server/audience/records";
import type { Use } from "~/server/mentions";
import { doFields } from "../audience/do-fields";
import { FieldDialog, type FieldDraft } from "../audience/field-dialog";
import { KIND_NAMES } from "../audience/import-columns";
import { RecordsTable, TableDialog } from "../audience/records";
import { Button } from "../ui/button";
import { useNotify } from "../ui/notices";
import { Page } from "../ui/page";
import { RemoveDialog } from "../ui/remove-button";
import { count, counted } from "../ui/time";
import type { Route } from "./+types/fields";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  return { fields: await fieldUses(septima), tables: await recordTables(septima) };
}

export default function Fields({ loaderData: { fields, tables } }: Route.ComponentProps) {
  const [draft, setDraft] = useState<FieldDraft | null>(null);
  const [newTable, setNewTable] = useState(false);
  const { revalidate } = useRevalidator();
  return (
    <Page
      title="Fields"
      about="What is known of contacts, besides address, name, language, zone, birthday and how they came"
      actions={
        <Link to="/audience" className="inline-flex items-center gap-1.5 text-ink-soft hover:text-ink">
          <ArrowLeft className="size-4" aria-hidden /> Audience
        </Link>
      }
    >
      <div className="space-y-7">
        <section aria-label="Own fields">
          <div className="mb-2 flex items-center justify-between">
            <h2 className="text-[15px] font-semibold">Fields of your own</h2>
            <Button kind="primary" onClick={() => setDraft({ field: null })}>
              <Plus className="size-4" aria-hidden /> Field
            </Button>
          </div>
          <ul className="card divide-y">
            {fields.length === 0 && (
              <li className="p-6 text-center text-ink-soft">
                None yet: what you want to know of your readers, to say it to them or to choose them by.
              </li>
            )}
            {fields.map(({ field, filled, uses }) => (
              <li key={field.key} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2">
                <button
                  type="button"
                  className="w-44 truncate text-left font-semibold hover:text-mulberry hover:underline"
                  onClick={() => setDraft({ field })}
                >
                  {field.label}
                </button>
                <span className="w-36 text-ink-soft">
                  {field.kind === "record"
                    ? `record of ${tables.find(({ id }) => id === field.table)?.name ?? "(gone)"}`
                    : KIND_NAMES[field.kind]}
                  {field.currency && `, ${field.currency}`}
                </span>
                <span className="min-w-0 grow basis-40 truncate text-ink-soft">
                  {field.kind !== "record" && field.options?.map(({ label }) => label).join(", ")}
                </span>
                <span className="text-ink-soft">
                  {uses.length === 0 ? "used nowhere" : `used in ${counted(uses.length, "place")}`}
                </span>
                <span className="w-24 text-right text-ink-soft">{count(filled)} filled</span>
                <RemoveField field={field} uses={uses} onChange={() => void revalidate()} />
              </li>
            ))}
          </ul>
        </section>
        <section aria-label="Tables" className="space-y-4">
          <div className="flex items-center justify-between gap-3">
            <div className="min-w-0">
              <h2 className="text-[15px] font-semibold">Tables</h2>
              <p className="text-ink-soft">
                Small lists that a field can point to, such as branches: what stands there is at hand in tags
                and rules.
              </p>
            </div>
            <Button onClick={() => setNewTable(true)}>
              <Plus className="size-4" aria-hidden /> Table
            </Button>
          </div>
          {tables.map((table) => (
            <RecordsTable key={table.id} table={table} onChange={() => void revalidate()} />
          ))}
        </section>
      </div>
      {draft && (
        <FieldDialog
          draft={draft}
          tables={tables}
          taken={fields.map(({ field }) => field.key)}
          onClose={() => {
            setDraft(null);
            void revalidate();
          }}
        />
      )}
      {newTable && (
        <TableDialog
          table={{ id: "", name: "", facts: [] }}
          onClose={() => {
            setNewTable(false);
            void revalidate();
          }}
        />
      )}
    </Page>
  );
}

function RemoveField({
  field,
  uses,
  onChange,
}: {
  field: Route.ComponentProps["loaderData"]["fields"][number]["field"];
  uses: readonly Use[];
  onChange(): void;
}) {
  const notify = useNotify();
  const back = async () => {
    const { options, ...rest } = field;
    const problem = await doFields({
      intent: "restore-field",
      field: { ...rest, ...(field.kind !== "record" && options && { options }) },
    });
    notify(problem ? { text: problem, bad: true } : { text: `“${field.label}” is back, with its values.` });
    onChange();
  };
  const [asking, setAsking] = useState(false);
  const remove = async () => {
    setAsking(false);
    const problem = await doFields({ intent: "remove-field", key: field.key });
    if (problem) notify({ text: problem, bad: true });
    else
      notify({
        text: `“${field.label}” was removed.`,
        action: { label: "Undo", run: () => void back() },
      });
    onChange();
  };
  return (
    <>
      <Button
        kind="quiet"
        onClick={() => (uses.length > 0 ? setAsking(true) : void remove())}
        aria-label={`Remove ${field.label}`}
      >
        Remove
      </Button>
      <RemoveDialog
        open={asking}
        name={field.label}
        consequence="Tags that ask for it will write what they fall back to, and rules that do find nobody, which stops a sending."
        uses={uses}
        onKeep={() => setAsking(false)}
        onRemove={() => void remove()}
      />
    </>
  );
}
