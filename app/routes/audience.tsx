import { FileUp, Plus, TableProperties } from "lucide-react";
import { useCallback, useMemo, useState } from "react";
import { Link, useNavigate, useRevalidator, useSearchParams } from "react-router";
import { z } from "zod";
import { isAddress, type Rule, RuleSchema, STANDING_GROUPS } from "~/core/audience";
import { audienceNow } from "~/server/audience/answers";
import { addContacts, hasContacts } from "~/server/audience/contacts";
import { type List, lists as listsOf, saveList, saveSegment } from "~/server/audience/groups";
import { type Group, GroupSchema } from "~/server/audience/selection";
import { type AudienceCounts, knownCounts, sizesOf } from "~/server/audience/sizes";
import type { Pick, TableQuery } from "~/server/audience/table";
import { type RuleWords, ruleWords } from "~/server/audience/words";
import { usesOf } from "~/server/mentions";
import { Refusal } from "~/server/refusal";
import type { Septima } from "~/server/septima";
import { BulkBar } from "../audience/bulk-bar";
import { columnsOf, useColumns } from "../audience/columns";
import { ContactTable, countMarked, type Marked } from "../audience/contact-table";
import { ContactDialog, ListDialog } from "../audience/dialogs";
import { type GroupFacts, GroupHead } from "../audience/group-head";
import { GroupsSide, groupAddress } from "../audience/groups-side";
import { type SegmentDraft, SegmentEditor } from "../audience/segment-editor";
import { TableTools } from "../audience/table-tools";
import { useCounts } from "../audience/use-counts";
import { useRows } from "../audience/use-rows";
import { input, jsonInput } from "../input";
import { orProblem } from "../refusal";
import { asGroup, firstLine } from "../rules/groups";
import { RuleEditor } from "../rules/rule-editor";
import { useReaderCount } from "../rules/use-reader-count";
import { Button, buttonLook } from "../ui/button";
import { Problem } from "../ui/form";
import { Empty, Page } from "../ui/page";
import { count, counted } from "../ui/time";
import type { Route } from "./+types/audience";

export async function loader({ context, request }: Route.LoaderArgs) {
  const { septima } = context;
  const { searchParams } = new URL(request.url);
  const group = input(GroupSchema, {
    kind: searchParams.get("kind") ?? "everyone",
    id: searchParams.get("id") ?? "",
  });
  const [words, lists, anybody, audience] = await Promise.all([
    ruleWords(septima),
    listsOf(septima),
    hasContacts(septima),
    audienceNow(septima),
  ]);
  return {
    words,
    lists,
    anybody,
    // What was counted last is there at once; how many there are now is asked for by the page.
    known: knownCounts(septima),
    facts: await factsOf(septima, group, lists, words),
    // Another one once the audience has changed: rows that are in view are read again.
    version: versionOf(audience),
  };
}

const EVERYONE: Group = { kind: "everyone", id: "" };

const versions = new WeakMap<object, number>();
let newest = 0;
function versionOf(audience: object): number {
  const known = versions.get(audience);
  if (known !== undefined) return known;
  newest += 1;
  versions.set(audience, newest);
  return newest;
}

async function factsOf(
  septima: Septima,
  group: Group,
  lists: readonly List[],
  { segments }: RuleWords,
): Promise<GroupFacts> {
  const { kind, id } = group;
  const isIt = (one: { id: string }) => one.id === id;
  const all = { everyone: [], list: lists, segment: segments, standing: STANDING_GROUPS }[kind];
  const known: Partial<List> | undefined = (all as readonly { id: string }[]).find(isIt);
  if (!known || kind === "everyone") return { ...NOTHING, group: EVERYONE, name: "Everyone" };
  const { name = "", about = "", topic = false } = known;
  const [sizes, uses] = await Promise.all([
    sizesOf(septima, kind, id),
    kind === "standing" ? [] : usesOf(septima.db, kind, [id]),
  ]);
  return { group, name, about, topic, sizes, uses };
}

const NOTHING = { about: "", topic: false, sizes: [], uses: [] };

const Body = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("contact"),
    email: z.string().max(400),
    first_name: z.string().max(500),
    last_name: z.string().max(500),
    lists: z.array(z.string()).max(1000),
  }),
  z.object({ intent: z.literal("segment"), id: z.string(), name: z.string().max(200), rule: RuleSchema }),
  z.object({
    intent: z.literal("list"),
    id: z.string(),
    name: z.string().max(200),
    about: z.string().max(500),
    topic: z.boolean(),
  }),
]);

export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    if (body.intent === "contact") {
      const email = body.email.trim();
      if (!isAddress(email))
        throw new Refusal(`“${email}” is not an address. It should look like name@domain.example.`);
      const fields = Object.fromEntries(
        (["first_name", "last_name"] as const)
          .map((key) => [key, body[key].trim()])
          .filter(([, value]) => value !== ""),
      );
      const added = await addContacts(septima, [{ email, fields, lists: body.lists }]);
      if (added === 0) throw new Refusal(`${email} is in the audience already.`, 409);
      return { id: "" };
    }
    const id = body.id || septima.newId();
    if (body.intent === "list") await saveList(septima, { ...body, id });
    else await saveSegment(septima, { id, name: body.name, rule: body.rule });
    return { id };
  });
}

const NEW: SegmentDraft = { id: "", name: "", rule: { kind: "all", of: [] } };

const everyoneWords = ({ everyone }: AudienceCounts) =>
  [
    counted(everyone.readers, "reader"),
    `${count(everyone.unsubscribed)} unsubscribed`,
    `${count(everyone.bounced)} bounced`,
    ...(everyone.complained > 0 ? [`${count(everyone.complained)} complained`] : []),
  ].join(", ");

export default function Audience({ loaderData }: Route.ComponentProps) {
  const { words, lists, facts } = loaderData;
  const { counts, counting } = useCounts(loaderData.known);
  const [editing, setEditing] = useState<SegmentDraft | null>(null);
  const [listing, setListing] = useState<{ id: string; name: string; about: string; topic: boolean } | null>(
    null,
  );
  const [adding, setAdding] = useState(false);
  const navigate = useNavigate();
  const { group } = facts;
  const edit = () => {
    const segment = words.segments.find(({ id }) => id === group.id);
    if (group.kind === "segment" && segment) setEditing(segment);
    else if (group.kind === "list")
      setListing({ id: group.id, name: facts.name, about: facts.about, topic: facts.topic });
  };
  const endEditing = useCallback(
    (id?: string) => {
      setEditing(null);
      if (id) navigate(groupAddress({ kind: "segment", id }));
    },
    [navigate],
  );
  const endListing = useCallback(
    (id?: string) => {
      setListing(null);
      if (id) navigate(groupAddress({ kind: "list", id }));
    },
    [navigate],
  );
  const endAdding = useCallback(() => setAdding(false), []);
  return (
    <Page
      title="Audience"
      wide
      about={counts ? everyoneWords(counts) : "Counting…"}
      actions={
        <>
          <Link className={buttonLook()} to="/audience/fields">
            <TableProperties className="size-4" aria-hidden /> Fields
          </Link>
          <Button onClick={() => setAdding(true)}>
            <Plus className="size-4" aria-hidden /> Contact
          </Button>
          <Link className={buttonLook("primary")} to="/audience/import">
            <FileUp className="size-4" aria-hidden /> Import
          </Link>
        </>
      }
    >
      <div className="grid grid-cols-[220px_minmax(0,1fr)] items-start gap-5 max-lg:grid-cols-1">
        <GroupsSide
          chosen={group}
          counts={counts}
          counting={counting}
          lists={lists}
          segments={words.segments}
          onAdd={(kind) =>
            kind === "segment" ? setEditing(NEW) : setListing({ id: "", name: "", about: "", topic: false })
          }
        />
        <div className="min-w-0">
          {editing ? (
            <SegmentEditor key={editing.id} segment={editing} words={words} onClose={endEditing} />
          ) : (
            <>
              <GroupHead facts={facts} words={words} onEdit={edit} />
              <Contacts key={`${group.kind} ${group.id}`} {...loaderData} />
            </>
          )}
        </div>
      </div>
      {listing && <ListDialog list={listing} onClose={endListing} />}
      {adding && <ContactDialog lists={words.lists} onClose={endAdding} />}
    </Page>
  );
}

/** How many are found; and how many of them can be written to, where that is not all. */
const foundWords = (total: number, readers: number) =>
  readers === total
    ? counted(total, "contact")
    : `${counted(total, "contact")}, ${readers === 0 ? "no reader" : counted(readers, "reader")} among them`;

const NOBODY: Marked = { all: false, ids: new Set() };

/** The contacts of a group: sought, filtered, sorted, marked. */
function Contacts({ words, facts: { group }, anybody, version }: Route.ComponentProps["loaderData"]) {
  const [params] = useSearchParams();
  const [sought, setSought] = useState(params.get("q") ?? "");
  const [filter, setFilter] = useState<Rule | null>(null);
  const [sort, setSort] = useState<TableQuery["sort"]>({ by: "id", down: false });
  const [marked, setMarked] = useState<Marked>(NOBODY);
  const { revalidate } = useRevalidator();
  const query: TableQuery = useMemo(
    () => ({ group, words: sought, filter, sort }),
    [group, sought, filter, sort],
  );
  const { total, readers, seeking, problem, at, need } = useRows(query, version);
  const all = useMemo(
    () => columnsOf(words.fields, new Map(words.lists.map(({ id, name }) => [id, name]))),
    [words],
  );
  const own = useMemo(
    () =>
      words.fields
        .filter(({ key }) => !key.includes("."))
        .slice(9)
        .map(({ key }) => key),
    [words],
  );
  const { shown, keys, choose } = useColumns(all, own);
  const seek = useCallback((next: string) => {
    setSought(next);
    setMarked(NOBODY);
  }, []);
  const refine = (next: Rule | null) => {
    setFilter(next);
    setMarked(NOBODY);
  };
  const markedNow = countMarked(marked, total ?? 0);
  const pick: Pick = marked.all ? { all: query, but: [...marked.ids] } : { ids: [...marked.ids] };
  if (!anybody && group.kind === "everyone")
    return (
      <Empty title="Nobody is here yet">
        Contacts come from a file, such as the export of another program or a spreadsheet kept as CSV, or one
        by one.{" "}
        <Link to="/audience/import" className="text-mulberry underline">
          Import a file
        </Link>
      </Empty>
    );
  return (
    <section className="space-y-2" aria-label="Contacts of the group">
      <TableTools
        words={sought}
        onWords={seek}
        filtering={filter !== null}
        onFilter={() => refine(filter ? null : { kind: "all", of: [firstLine(words)] })}
        columns={all}
        chosen={keys}
        onColumns={choose}
        found={total === null ? "Looking…" : foundWords(total, readers)}
      />
      {filter && (
        <div className="card p-4">
          <FilterEditor rule={filter} onChange={refine} words={words} />
        </div>
      )}
      {markedNow > 0 && (
        <BulkBar
          marked={markedNow}
          pick={pick}
          removed={group.kind === "standing" && group.id === "removed"}
          lists={words.lists}
          fields={words.fields.filter(({ key }) => !key.includes("."))}
          onDone={() => {
            setMarked(NOBODY);
            void revalidate();
          }}
          onClear={() => setMarked(NOBODY)}
        />
      )}
      {problem && <Problem>{problem}</Problem>}
      {total === 0 && !seeking ? (
        <p className="card p-8 text-center text-ink-soft">
          {sought !== "" || filter ? "Nobody fits what is sought." : "Nobody is in it."}
        </p>
      ) : (
        <ContactTable
          total={total ?? 0}
          at={at}
          need={need}
          columns={shown}
          query={query}
          onSort={setSort}
          marked={marked}
          onMark={setMarked}
          busy={seeking}
        />
      )}
    </section>
  );
}

/** The same builder as for segments, on what is in view. */
function FilterEditor({
  rule,
  onChange,
  words,
}: {
  rule: Rule;
  onChange(rule: Rule): void;
  words: Route.ComponentProps["loaderData"]["words"];
}) {
  const { parts, problem } = useReaderCount(rule);
  return (
    <>
      <RuleEditor rule={asGroup(rule)} onChange={onChange} words={words} counts={parts} />
      {problem && <Problem>{problem}</Problem>}
    </>
  );
}
