import { Download, Plus, Search } from "lucide-react";
import { useEffect, useState } from "react";
import { Form, Link, useFetcher, useRevalidator, useSearchParams } from "react-router";
import { z } from "zod";
import { contactName, isAddress, RuleSchema } from "~/core/audience";
import { addContacts, searchContacts } from "~/server/audience/contacts";
import { countReaders, lists, saveSegment, segments } from "~/server/audience/groups";
import { countSelection } from "~/server/audience/selection";
import { Refusal, today } from "~/server/septima";
import { fieldsOf } from "~/server/workspace/settings";
import { formInput, input, jsonOf } from "../input";
import { orProblem } from "../refusal";
import { asGroup, RuleEditor, type RuleWords } from "../rules/rule-editor";
import { RuleSentence } from "../rules/rule-words";
import { useReaderCount } from "../rules/use-reader-count";
import { Button, buttonLook } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Input, Labelled, Problem } from "../ui/form";
import { Page } from "../ui/page";
import { RemoveButton } from "../ui/remove-button";
import { count, counted } from "../ui/time";
import type { Route } from "./+types/audience";

const PAGE = 50;

export async function loader({ context, request }: Route.LoaderArgs) {
  const { septima } = context;
  const url = new URL(request.url);
  const query = url.searchParams.get("q") ?? "";
  const from = Math.max(0, Number(url.searchParams.get("from")) || 0);
  const known = await segments(septima);
  const [fields, allLists, everyone, found, counts] = await Promise.all([
    fieldsOf(septima),
    lists(septima),
    countSelection(septima, { include: [{ kind: "everyone", id: "" }], exclude: [] }),
    searchContacts(septima, query, PAGE, from),
    countReaders(
      septima,
      known.map(({ rule }) => rule),
    ),
  ]);
  return {
    words: { fields, lists: allLists, segments: known, today: today(septima) } satisfies RuleWords,
    lists: allLists,
    segments: known.map((segment, index) => ({ ...segment, count: counts[index] })),
    everyone,
    query,
    from,
    ...found,
  };
}

export async function action({ context, request }: Route.ActionArgs) {
  const { septima } = context;
  const form = await formInput(request);
  return orProblem(async () => {
    if (form.get("intent") === "contact") {
      const text = (key: string) => String(form.get(key) ?? "").trim();
      const email = text("email");
      if (!isAddress(email))
        throw new Refusal(`“${email}” is not an address. It should look like name@domain.example.`);
      const fields = Object.fromEntries(
        ["first_name", "last_name"].map((key) => [key, text(key)]).filter(([, value]) => value !== ""),
      );
      const added = await addContacts(septima, [{ email, fields, lists: form.getAll("list").map(String) }]);
      if (added === 0) throw new Refusal(`${email} is in the audience already.`, 409);
    } else {
      const rule = input(RuleSchema, jsonOf(form.get("rule")));
      const id = input(z.string(), form.get("id")) || septima.newId();
      await saveSegment(septima, { id, name: input(z.string(), form.get("name")), rule });
    }
    return true;
  });
}

type Segment = { id: string; name: string; rule: z.infer<typeof RuleSchema> };

export default function Audience({ loaderData }: Route.ComponentProps) {
  const { words, lists: allLists, segments: known, everyone, contacts, total, query, from } = loaderData;
  const [editing, setEditing] = useState<Segment | null>(null);
  const [adding, setAdding] = useState(false);
  const [, setParams] = useSearchParams();
  const { revalidate } = useRevalidator();
  return (
    <Page
      title="Audience"
      about={`${counted(everyone.readers, "reader")}, ${count(everyone.unsubscribed)} unsubscribed, ${count(everyone.bounced)} bounced`}
      actions={
        <>
          <a className={buttonLook()} href="/audience/export/contacts.csv" download>
            <Download className="size-4" aria-hidden /> CSV
          </a>
          <Button onClick={() => setAdding(true)}>
            <Plus className="size-4" aria-hidden /> Contact
          </Button>
          <Button
            kind="primary"
            onClick={() => setEditing({ id: "", name: "", rule: { kind: "all", of: [] } })}
          >
            <Plus className="size-4" aria-hidden /> Segment
          </Button>
        </>
      }
    >
      <div className="grid grid-cols-[300px_minmax(0,1fr)] items-start gap-5 max-lg:grid-cols-1">
        <div className="space-y-5">
          <section>
            <h2 className="mb-1.5 font-medium">Segments</h2>
            <ul className="card divide-y">
              {known.length === 0 && (
                <li className="p-3 text-ink-soft">Readers who meet a rule, always up to date. None yet.</li>
              )}
              {known.map((segment) => (
                <li key={segment.id} className="flex items-start">
                  <button
                    type="button"
                    className="block min-w-0 grow py-2 pl-3 text-left hover:bg-black/3"
                    onClick={() => setEditing(segment)}
                  >
                    <span className="flex justify-between gap-2 font-semibold">
                      {segment.name}
                      <span className="font-medium text-teal">
                        {segment.count === null ? "broken" : count(segment.count)}
                      </span>
                    </span>
                    <span className="text-ink-soft">
                      <RuleSentence rule={segment.rule} words={words} />
                    </span>
                  </button>
                  {segment.count !== null && (
                    <TakeOut kind="segment" id={segment.id} name={segment.name} className="mt-2.5 ml-1" />
                  )}
                  <RemoveButton
                    kind="segment"
                    id={segment.id}
                    name={segment.name}
                    className="m-1"
                    consequence="Rules that ask for it can no longer be answered, and stop a sending, until they are changed."
                    onChange={() => void revalidate()}
                  />
                </li>
              ))}
            </ul>
          </section>
          <section>
            <h2 className="mb-1.5 font-medium">Lists</h2>
            <ul className="card divide-y">
              {allLists.length === 0 && (
                <li className="p-3 text-ink-soft">Contacts picked by hand. None yet.</li>
              )}
              {allLists.map((list) => (
                <li key={list.id} className="flex justify-between px-3 py-2 font-semibold">
                  {list.name}
                  <span className="flex items-center gap-2 font-normal text-ink-soft">
                    {count(list.count)}
                    <TakeOut kind="list" id={list.id} name={list.name} />
                  </span>
                </li>
              ))}
            </ul>
          </section>
        </div>
        <section aria-label="Contacts">
          <Form className="relative mb-2 w-80 max-w-full">
            <Search className="absolute top-2 left-2.5 size-4 text-ink-soft" aria-hidden />
            <Input
              name="q"
              aria-label="Search contacts"
              placeholder="Name or address, then Enter"
              className="pl-8"
              defaultValue={query}
            />
          </Form>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a wide table is scrolled by keys from here */}
          <section className="card overflow-x-auto" aria-label="Table of contacts" tabIndex={0}>
            <table className="w-full">
              <thead className="text-left text-xs text-ink-soft">
                <tr className="border-b">
                  <th className="px-3 py-2 font-medium">Name</th>
                  <th className="px-3 py-2 font-medium">Address</th>
                  {words.fields.slice(7, 11).map((field) => (
                    <th key={field.key} className="px-3 py-2 font-medium">
                      {field.label}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody className="divide-y">
                {contacts.map((contact) => (
                  <tr key={contact.id}>
                    <td className="max-w-48 truncate px-3 py-1.5 font-medium">
                      <Link to={`/audience/${contact.id}`} className="hover:text-mulberry hover:underline">
                        {contactName(contact)}
                      </Link>
                    </td>
                    <td className="max-w-60 truncate px-3 py-1.5 text-ink-soft">{contact.email}</td>
                    {words.fields.slice(7, 11).map((field) => (
                      <td key={field.key} className="px-3 py-1.5 text-ink-soft">
                        {fieldText(contact.fields[field.key])}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
            {contacts.length === 0 && (
              <p className="p-6 text-center text-ink-soft">
                {query ? `Nobody matches “${query}”.` : "Nobody here yet."}
              </p>
            )}
          </section>
          {total > 0 && (
            <div className="mt-2 flex items-center justify-end gap-3 text-ink-soft">
              {count(from + 1)}–{count(Math.min(total, from + PAGE))} of {count(total)}
              <Button
                disabled={from === 0}
                onClick={() => setParams({ q: query, from: String(Math.max(0, from - PAGE)) })}
              >
                Previous
              </Button>
              <Button
                disabled={from + PAGE >= total}
                onClick={() => setParams({ q: query, from: String(from + PAGE) })}
              >
                Next
              </Button>
            </div>
          )}
        </section>
      </div>
      {editing && <SegmentDialog segment={editing} words={words} onClose={() => setEditing(null)} />}
      {adding && <ContactDialog lists={allLists} onClose={() => setAdding(false)} />}
    </Page>
  );
}

/** The contacts of a list or segment as a file. */
function TakeOut({
  kind,
  id,
  name,
  className = "",
}: {
  kind: "list" | "segment";
  id: string;
  name: string;
  className?: string;
}) {
  const query = new URLSearchParams({ kind, id });
  return (
    <a
      className={`rounded p-0.5 text-ink-soft hover:bg-black/6 hover:text-ink ${className}`}
      href={`/audience/export/contacts.csv?${query}`}
      download
      title={`“${name}” as CSV`}
      aria-label={`“${name}” as CSV`}
    >
      <Download className="size-4" aria-hidden />
    </a>
  );
}

function fieldText(value: unknown): string {
  if (value === true) return "yes";
  if (value === false) return "no";
  return Array.isArray(value) ? value.join(", ") : value === undefined || value === null ? "" : String(value);
}

function SegmentDialog({ segment, words, onClose }: { segment: Segment; words: RuleWords; onClose(): void }) {
  const fetcher = useFetcher<typeof action>();
  const [rule, setRule] = useState(asGroup(segment.rule));
  const { count: readers, problem } = useReaderCount(rule);
  useEffect(() => {
    if (fetcher.data?.result) onClose();
  }, [fetcher.data, onClose]);
  return (
    <Dialog
      open
      onClose={onClose}
      title={segment.id === "" ? "New segment" : segment.name}
      about="Always up to date: whoever meets the rule is in it."
      wide
    >
      <fetcher.Form method="post" className="space-y-4">
        <input type="hidden" name="intent" value="segment" />
        <input type="hidden" name="id" value={segment.id} />
        <input type="hidden" name="rule" value={JSON.stringify(rule)} />
        <Labelled label="Name">
          {(id) => <Input id={id} name="name" defaultValue={segment.name} required />}
        </Labelled>
        <RuleEditor
          rule={rule}
          onChange={setRule}
          words={{ ...words, segments: words.segments.filter((other) => other.id !== segment.id) }}
        />
        {(fetcher.data?.problem ?? problem) && <Problem>{fetcher.data?.problem ?? problem}</Problem>}
        <div className="flex items-center justify-between">
          <span className="font-medium text-teal" aria-live="polite">
            {readers === null ? "Counting…" : counted(readers, "reader")}
          </span>
          <Button type="submit" kind="primary">
            Save the segment
          </Button>
        </div>
      </fetcher.Form>
    </Dialog>
  );
}

function ContactDialog({
  lists: allLists,
  onClose,
}: {
  lists: { id: string; name: string }[];
  onClose(): void;
}) {
  const fetcher = useFetcher<typeof action>();
  useEffect(() => {
    if (fetcher.data?.result) onClose();
  }, [fetcher.data, onClose]);
  return (
    <Dialog open onClose={onClose} title="New contact">
      <fetcher.Form method="post" className="space-y-3">
        <input type="hidden" name="intent" value="contact" />
        <Labelled label="Email address">{(id) => <Input id={id} name="email" required />}</Labelled>
        <Labelled label="First name">{(id) => <Input id={id} name="first_name" />}</Labelled>
        <Labelled label="Last name">{(id) => <Input id={id} name="last_name" />}</Labelled>
        <fieldset className="flex flex-wrap gap-3">
          <legend className="mb-1 font-medium">On these lists</legend>
          {allLists.map((list) => (
            <label key={list.id} className="flex items-center gap-1.5">
              <input type="checkbox" name="list" value={list.id} /> {list.name}
            </label>
          ))}
        </fieldset>
        {fetcher.data?.problem && <Problem>{fetcher.data.problem}</Problem>}
        <div className="flex justify-end">
          <Button type="submit" kind="primary">
            Add
          </Button>
        </div>
      </fetcher.Form>
    </Dialog>
  );
}
