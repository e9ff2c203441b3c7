import { useState } from "react";
import { Form, Link, useNavigation } from "react-router";
import { Button } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Input, Labelled } from "../ui/form";

/** A new campaign: its name, and the layout to start from. */
export function StartDialog({
  open,
  onClose,
  layouts,
}: {
  open: boolean;
  onClose(): void;
  layouts: readonly { id: string; name: string; about: string }[];
}) {
  const navigation = useNavigation();
  const [layout, setLayout] = useState(layouts[0].id);
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="New campaign"
      about="Give it a name for yourself; readers never see it."
      wide
    >
      <Form method="post" className="space-y-4">
        <input type="hidden" name="intent" value="start" />
        <Labelled label="Name">
          {(id) => <Input id={id} name="name" placeholder="March letter" autoFocus />}
        </Labelled>
        <fieldset>
          <legend className="mb-1 font-medium">Start from</legend>
          <div className="grid grid-cols-5 gap-3 max-md:grid-cols-2">
            {layouts.map((one) => (
              <label
                key={one.id}
                className="cursor-pointer rounded-lg border p-3 has-checked:border-mulberry has-checked:bg-mulberry-wash has-focus-visible:outline-2 has-focus-visible:outline-mulberry"
              >
                <input
                  type="radio"
                  name="layout"
                  value={one.id}
                  className="sr-only"
                  checked={layout === one.id}
                  onChange={() => setLayout(one.id)}
                />
                <LayoutSketch id={one.id} />
                <span className="mt-2 block font-semibold">{one.name}</span>
                <span className="text-ink-soft">{one.about}</span>
              </label>
            ))}
          </div>
        </fieldset>
        <div className="flex flex-wrap items-center justify-between gap-3">
          <Link to="/templates" className="underline underline-offset-2 hover:text-mulberry">
            Or start from a finished template
          </Link>
          <Button type="submit" kind="primary" disabled={navigation.state !== "idle"}>
            Start composing
          </Button>
        </div>
      </Form>
    </Dialog>
  );
}

function LayoutSketch({ id }: { id: string }) {
  const bar = (width: string) => <div className="h-1.5 rounded-sm bg-[#cfccd6]" style={{ width }} />;
  return (
    <div className="flex h-24 flex-col gap-2 rounded border bg-white p-3" aria-hidden>
      {id === "news" && <div className="-mx-3 -mt-3 h-7 bg-[#dedbe4]" />}
      {id === "text" && <div className="font-mono text-[11px]/4 text-ink-soft">Dear @…</div>}
      {id !== "empty" && bar("70%")}
      {id !== "empty" && bar("100%")}
      {id === "letter" && bar("90%")}
      {id === "letter" && <div className="mt-1 h-3.5 w-12 rounded bg-[#b9b4c2]" />}
      {(id === "news" || id === "sample") && (
        <div className="flex gap-2">
          {["one", "two", ...(id === "sample" ? ["three"] : [])].map((column) => (
            <div key={column} className="h-5 grow rounded bg-[#e6e4ea]" />
          ))}
        </div>
      )}
      <div className="mt-auto h-1 w-1/2 self-center rounded bg-[#e0dee5]" />
    </div>
  );
}
