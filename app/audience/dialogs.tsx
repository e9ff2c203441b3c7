import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import { Dialog, DialogForm } from "../ui/dialog";
import { Input, Labelled } from "../ui/form";
import { Switch } from "../ui/switch";

type Answer = { problem: string | null; result: { id: string } | null };

/** Makes a list, or changes what it is called and whether readers may choose it. */
export function ListDialog({
  list,
  onClose,
}: {
  list: { id: string; name: string; about: string; topic: boolean };
  onClose(id?: string): void;
}) {
  const fetcher = useFetcher<Answer>();
  const [draft, setDraft] = useState(list);
  useEffect(() => {
    if (fetcher.data?.result) onClose(fetcher.data.result.id);
  }, [fetcher.data, onClose]);
  return (
    <Dialog open onClose={() => onClose()} title={list.id === "" ? "New list" : list.name}>
      <DialogForm
        submit="Save the list"
        busy={fetcher.state !== "idle"}
        problem={fetcher.data?.problem}
        onSubmit={() =>
          fetcher.submit(JSON.stringify({ intent: "list", ...draft }), {
            method: "post",
            action: "/audience",
            encType: "application/json",
          })
        }
      >
        <Labelled label="Name">
          <Input value={draft.name} onChange={(event) => setDraft({ ...draft, name: event.target.value })} />
        </Labelled>
        <Switch checked={draft.topic} onChange={(topic) => setDraft({ ...draft, topic })}>
          Readers may choose it on the preference page
        </Switch>
        <Labelled
          label="What it is about"
          hint={draft.topic ? "Stands beside its name on the preference page." : undefined}
        >
          <Input
            value={draft.about}
            onChange={(event) => setDraft({ ...draft, about: event.target.value })}
          />
        </Labelled>
      </DialogForm>
    </Dialog>
  );
}

/** Adds one contact by hand. */
export function ContactDialog({
  lists,
  onClose,
}: {
  lists: readonly { id: string; name: string }[];
  onClose(): void;
}) {
  const fetcher = useFetcher<Answer>();
  const [draft, setDraft] = useState({ email: "", first_name: "", last_name: "" });
  const [on, setOn] = useState<readonly string[]>([]);
  useEffect(() => {
    if (fetcher.data?.result) onClose();
  }, [fetcher.data, onClose]);
  const word = (key: keyof typeof draft, label: string) => (
    <Labelled label={label}>
      <Input
        name={key}
        value={draft[key]}
        onChange={(event) => setDraft({ ...draft, [key]: event.target.value })}
      />
    </Labelled>
  );
  return (
    <Dialog open onClose={onClose} title="New contact">
      <DialogForm
        submit="Add"
        busy={fetcher.state !== "idle"}
        problem={fetcher.data?.problem}
        onSubmit={() =>
          fetcher.submit(JSON.stringify({ intent: "contact", ...draft, lists: on }), {
            method: "post",
            action: "/audience",
            encType: "application/json",
          })
        }
      >
        {word("email", "Email address")}
        {word("first_name", "First name")}
        {word("last_name", "Last name")}
        <fieldset className="flex flex-wrap gap-3">
          <legend className="mb-1 font-medium">On these lists</legend>
          {lists.length === 0 && <span className="text-ink-soft">There are none.</span>}
          {lists.map(({ id, name }) => (
            <label key={id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={on.includes(id)}
                onChange={() => setOn(on.includes(id) ? on.filter((one) => one !== id) : [...on, id])}
              />{" "}
              {name}
            </label>
          ))}
        </fieldset>
      </DialogForm>
    </Dialog>
  );
}
