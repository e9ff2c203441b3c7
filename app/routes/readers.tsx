import { Minus, Plus, X } from "lucide-react";
import { Link, useFetcher } from "react-router";
import { groupKey, STANDING_GROUPS } from "~/core/audience";
import { lists, segments } from "~/server/audience/groups";
import { type Group, type Selection, SelectionSchema } from "~/server/audience/selection";
import { knownCounts } from "~/server/audience/sizes";
import { campaign, setReaders } from "~/server/campaigns/campaigns";
import { useCounts } from "../audience/use-counts";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import { ask } from "../requests";
import { buttonLook, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Problem } from "../ui/form";
import { count, counted } from "../ui/time";
import { useAnswer } from "../ui/use-answer";
import type { Route } from "./+types/readers";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { septima } = context;
  const { readers } = await campaign(septima, params.campaign);
  const [allLists, allSegments] = await Promise.all([lists(septima), segments(septima)]);
  const named = (kind: Group["kind"], all: readonly { id: string; name: string }[]) =>
    all.map(({ id, name }) => ({ kind, id, name }));
  return {
    selection: readers,
    groups: [
      ...named("everyone", [{ id: "", name: "Everyone" }]),
      ...named("list", allLists),
      ...named("segment", allSegments),
      // Of those who cannot be written to, there is nobody to choose.
      ...named(
        "standing",
        STANDING_GROUPS.filter(({ status }) => status === undefined),
      ),
    ],
    known: knownCounts(septima),
  };
}

export async function action({ context, params, request }: Route.ActionArgs) {
  const selection = await jsonInput(request, SelectionSchema);
  return orProblem(() => setReaders(context.septima, params.campaign, selection));
}

const same = (a: Group, b: Group) => a.kind === b.kind && a.id === b.id;
const KIND = { everyone: "", list: "list", segment: "segment", standing: "standing group" };

export default function Readers({ loaderData, params }: Route.ComponentProps) {
  const { selection: saved, groups, known } = loaderData;
  const { counts, counting: sizing } = useCounts(known);
  const sizeOf = (group: Group) => {
    const size = group.kind === "everyone" ? counts?.everyone.readers : counts?.groups[groupKey(group)];
    return size === null ? "broken" : size === undefined && sizing ? "…" : count(size ?? 0);
  };
  // Counted again whenever something was changed, which is when the page is loaded again.
  const counter = useAnswer(loaderData, (signal) =>
    ask("/campaigns/:campaign/readers/count", { at: params, signal }),
  );
  const { last: numbers, problem } = counter;
  const fetcher = useFetcher();
  const selection = (fetcher.json as Selection | undefined) ?? saved;
  const keep = (next: Selection) => fetcher.submit(next, { method: "post", encType: "application/json" });
  const name = (group: Group) => groups.find((one) => same(one, group))?.name ?? "(deleted)";
  // While a choice is on its way, the numbers are still those of the one before.
  const counting = fetcher.state !== "idle" || counter.waiting;
  return (
    <main className="h-full overflow-y-auto">
      <title>Readers · Septima</title>
      <div className="mx-auto grid max-w-5xl grid-cols-[minmax(0,1fr)_320px] items-start gap-5 p-6">
        <div className="space-y-5">
          <h1 className="text-[22px]/7 font-semibold">Who gets it</h1>
          {(["include", "exclude"] as const).map((side) => (
            <section key={side} className="card p-4" aria-labelledby={`side-${side}`}>
              <h2 id={`side-${side}`} className="mb-2 text-[15px] font-semibold">
                {side === "include" ? "Readers in any of these" : "but nobody in these"}
              </h2>
              <ul className="space-y-1">
                {selection[side].map((group) => (
                  <li
                    key={`${group.kind} ${group.id}`}
                    className="flex items-center gap-2 rounded-md bg-[#f3f2f5] py-0.5 pr-1 pl-3"
                  >
                    <span className="grow font-medium">
                      {name(group)} <span className="font-normal text-ink-soft">{KIND[group.kind]}</span>
                    </span>
                    <span className="text-ink-soft">{sizeOf(group)}</span>
                    <IconButton
                      icon={X}
                      label={`Remove ${name(group)}`}
                      onClick={() =>
                        keep({ ...selection, [side]: selection[side].filter((one) => !same(one, group)) })
                      }
                    />
                  </li>
                ))}
              </ul>
              <Choose
                label={side === "include" ? "Add readers" : "Leave out"}
                className="mt-2 w-64!"
                value=""
                placeholder={side === "include" ? "Add a list or segment…" : "Leave out a list or segment…"}
                onChange={(index) => {
                  const { kind, id } = groups[Number(index)];
                  keep({ ...selection, [side]: [...selection[side], { kind, id }] });
                }}
                options={groups.flatMap((group, index) =>
                  (side === "exclude" && group.kind === "everyone") ||
                  selection[side].some((one) => same(one, group))
                    ? []
                    : [{ value: String(index), label: group.name, aside: sizeOf(group) }],
                )}
              />
            </section>
          ))}
          {problem && <Problem>{problem}</Problem>}
        </div>
        <aside className="card p-4" aria-live="polite" aria-busy={counting}>
          <h2 className="mb-3 text-[15px] font-semibold">The count</h2>
          {selection.include.length > 0 && !problem ? (
            <>
              <dl className="space-y-1.5">
                {[
                  { label: "In the chosen groups", number: numbers?.included, sign: "plus" as const },
                  { label: "Left out", number: numbers?.excluded },
                  { label: "Unsubscribed", number: numbers?.unsubscribed },
                  { label: "Bounced before", number: numbers?.bounced },
                  ...(numbers && numbers.complained > 0
                    ? [{ label: "Called a letter spam", number: numbers.complained }]
                    : []),
                ].map((line) => (
                  <Subtraction key={line.label} {...line} counting={counting} />
                ))}
              </dl>
              <p
                className={`mt-3 border-t pt-3 text-lg font-semibold ${counting ? "text-ink-soft" : "text-teal"}`}
              >
                {counting || !numbers ? "Counting…" : counted(numbers.readers, "reader")}
              </p>
              <p className={`text-ink-soft ${counting ? "invisible" : ""}`}>Each address once.</p>
              <Link
                className={`${buttonLook("primary")} mt-4 w-full`}
                to={`/campaigns/${params.campaign}/send`}
              >
                On to sending
              </Link>
            </>
          ) : (
            <p className="text-ink-soft">
              Choose a list or a segment, and the number of readers is worked out here, subtraction by
              subtraction.
            </p>
          )}
        </aside>
      </div>
    </main>
  );
}

function Subtraction({
  label,
  number,
  sign,
  counting,
}: {
  label: string;
  number: number | undefined;
  sign?: "plus";
  counting: boolean;
}) {
  const Icon = sign === "plus" ? Plus : Minus;
  return (
    <div className="flex items-center gap-2">
      <Icon className="size-3.5 text-ink-soft" aria-hidden />
      <dt className="grow">{label}</dt>
      <dd className="text-right">{counting || number === undefined ? "…" : count(number)}</dd>
    </div>
  );
}
