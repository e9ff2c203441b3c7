import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link, useRevalidator } from "react-router";
import { lists } from "~/server/audience/groups";
import { type Programme, programmeOf, referralNumbers } from "~/server/referrals/programme";
import { codeStock } from "~/server/sources/codes";
import { tell } from "../requests";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Area, Input, Labelled, Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { NumberField } from "../ui/number-field";
import { Page } from "../ui/page";
import { Switch } from "../ui/switch";
import { count, counted } from "../ui/time";
import { useUnsaved } from "../ui/unsaved";
import type { Route } from "./+types/referrals";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  const [programme, numbers, all, batches] = await Promise.all([
    programmeOf(septima),
    referralNumbers(septima),
    lists(septima),
    codeStock(septima),
  ]);
  return {
    programme,
    numbers,
    lists: all.map(({ id, name }) => ({ id, name })),
    batches: batches.map(({ key, name, free }) => ({ key, name, free })),
    page: `${septima.config.readers}/join/preview`,
  };
}

export default function Referrals({ loaderData }: Route.ComponentProps) {
  const { programme } = loaderData;
  return (
    <Page
      title="Referrals"
      about="Each reader has a link of their own; friends who join by it are counted once they confirmed"
    >
      <div className="grid grid-cols-[minmax(0,1fr)_380px] items-start gap-5 max-xl:grid-cols-1">
        <ProgrammeForm key={JSON.stringify(programme)} {...loaderData} />
        <Numbers {...loaderData} />
      </div>
    </Page>
  );
}

type Facts = Route.ComponentProps["loaderData"];

function ProgrammeForm({ programme, lists: all, batches, page }: Facts) {
  const [draft, setDraft] = useState<Programme>(programme);
  const [problem, setProblem] = useState<string | null>(null);
  const { revalidate } = useRevalidator();
  const notify = useNotify();
  const change = (part: Partial<Programme>) => {
    setProblem(null);
    setDraft({ ...draft, ...part });
  };
  const { steps } = draft;
  useUnsaved(JSON.stringify(draft) !== JSON.stringify(programme));
  const setStep = (id: string, part: Partial<Programme["steps"][number]>) =>
    change({ steps: steps.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  const save = async () => {
    const empty = steps.find(({ reward }) => reward.trim() === "");
    if (empty) return setProblem(`Say what readers earn for ${counted(empty.at, "friend")}.`);
    const said = await tell("/referrals/change", draft);
    if (said.problem) return setProblem(said.problem);
    await revalidate();
    notify({ text: "The programme is saved." });
  };
  return (
    <section className="card space-y-5 p-5 max-sm:p-3" aria-label="Programme">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <Switch checked={draft.on} onChange={(on) => change({ on })}>
          Friends can join
        </Switch>
        <Link to={page} target="_blank" className="text-ink-soft underline">
          Look at the page they come to
        </Link>
      </div>
      <Labelled label="They join">
        <Choose
          label="The list they join"
          placeholder="Choose a list"
          value={draft.list}
          options={all.map((one) => ({ value: one.id, label: one.name }))}
          onChange={(list) => change({ list })}
        />
      </Labelled>
      <Labelled label="Title of the page">
        <Input
          maxLength={120}
          value={draft.title}
          onChange={(event) => change({ title: event.target.value })}
        />
      </Labelled>
      <Labelled label="Words on the page">
        <Area
          className="h-20 py-1.5"
          maxLength={1000}
          value={draft.words}
          onChange={(event) => change({ words: event.target.value })}
        />
      </Labelled>
      <Labelled label="What they agree to">
        <Input
          maxLength={300}
          value={draft.consent}
          onChange={(event) => change({ consent: event.target.value })}
        />
      </Labelled>
      <div>
        <h2 className="mb-2 font-semibold">What readers earn</h2>
        <ul className="space-y-2">
          {steps.map(({ id, at, reward, batch }) => (
            <li key={id} className="flex items-center gap-2 max-sm:flex-wrap">
              <div className="w-20 shrink-0">
                <NumberField
                  label="Friends"
                  value={at}
                  min={1}
                  max={1000}
                  onChange={(next) => setStep(id, { at: next ?? 1 })}
                />
              </div>
              <Input
                aria-label={`What they earn for ${counted(at, "friend")}`}
                placeholder="a bag of bulbs"
                className="min-w-32 flex-1"
                maxLength={200}
                value={reward}
                onChange={(event) => setStep(id, { reward: event.target.value })}
              />
              <Choose
                label={`Code for ${counted(at, "friend")}`}
                className="w-44! shrink-0"
                value={batch ?? "none"}
                options={[
                  { value: "none", label: "No code" },
                  ...batches.map((one) => ({
                    value: one.key,
                    label: one.name,
                    aside: `${count(one.free)} left`,
                  })),
                ]}
                onChange={(next) => setStep(id, { batch: next === "none" ? null : next })}
              />
              <IconButton
                icon={Trash2}
                label={`Remove the reward for ${counted(at, "friend")}`}
                onClick={() => change({ steps: steps.filter((one) => one.id !== id) })}
              />
            </li>
          ))}
        </ul>
        {steps.length === 0 && (
          <p className="text-ink-soft">Nothing yet: friends are counted all the same.</p>
        )}
        {steps.length < 10 && (
          <Button
            className="mt-2"
            onClick={() =>
              change({
                steps: [
                  ...steps,
                  {
                    id: crypto.randomUUID().slice(0, 8),
                    at: (steps.at(-1)?.at ?? 0) + (steps.length === 0 ? 1 : 2),
                    reward: "",
                    batch: null,
                  },
                ],
              })
            }
          >
            <Plus className="size-4" aria-hidden /> Reward
          </Button>
        )}
      </div>
      <div className="flex items-center gap-3">
        <Button kind="primary" onClick={() => void save()}>
          Save the programme
        </Button>
        {problem && <Problem>{problem}</Problem>}
      </div>
      <p className="text-ink-soft">
        In a design the block “Refer” takes it up. Rules and tags can use the field “Friends who joined”.
      </p>
    </section>
  );
}

function Numbers({ numbers }: Facts) {
  const { asked, confirmed, given, waiting, readers } = numbers;
  return (
    <section className="card p-5 max-sm:p-3" aria-label="How it goes">
      <h2 className="mb-2 font-semibold">How it goes</h2>
      <p>
        {counted(asked, "friend")} asked, <strong>{count(confirmed)}</strong> confirmed.{" "}
        {counted(given, "reward")} sent{waiting > 0 ? `, ${count(waiting)} waiting` : ""}.
      </p>
      {waiting > 0 && (
        <p className="mt-1 text-amber">
          Rewards wait while a batch has no code left or mail cannot leave. They go out by themselves.
        </p>
      )}
      {readers.length > 0 && (
        <table className="mt-3 w-full text-left">
          <thead className="text-xs text-ink-soft">
            <tr className="border-b">
              <th scope="col" className="py-1.5 font-medium">
                Reader
              </th>
              <th scope="col" className="py-1.5 text-right font-medium">
                Friends
              </th>
              <th scope="col" className="py-1.5 text-right font-medium">
                Open
              </th>
            </tr>
          </thead>
          <tbody>
            {readers.map(({ id, name, email, friends, open }) => (
              <tr key={id} className="border-b last:border-b-0">
                <td className="max-w-52 py-1.5">
                  <Link to={`/audience/${id}`} className="block truncate underline decoration-line">
                    {name || email}
                  </Link>
                </td>
                <td className="py-1.5 text-right tabular-nums">{count(friends)}</td>
                <td className="py-1.5 text-right text-ink-soft tabular-nums">{count(open)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
