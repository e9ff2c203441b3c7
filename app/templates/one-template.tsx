import { Download, Pencil, Trash2 } from "lucide-react";
import { useState } from "react";
import { Form, Link, useFetcher, useNavigation } from "react-router";
import type { Theme } from "~/core/email";
import type { TemplateLine } from "~/server/campaigns/templates";
import { Button, buttonLook, IconButton } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Input, Labelled } from "../ui/form";
import { useNotify } from "../ui/notices";
import { counted, timeWords } from "../ui/time";
import { FramedPicture, TruePicture } from "../ui/true-picture";
import { FactsFields } from "./facts-fields";

export interface ShownTheme {
  id: string;
  name: string;
  light: Theme["light"];
  heading: string;
}

/** One template, large: on a desktop and on a phone, in any theme; and what can be done with it. */
export function OneTemplate({
  line,
  themes,
  now,
}: {
  line: TemplateLine & { offers: number; width: number };
  themes: readonly ShownTheme[];
  now: number;
}) {
  const { state } = useNavigation();
  const fetcher = useFetcher<{ problem: string | null }>();
  const undo = useFetcher();
  const notify = useNotify();
  const [chosen, setChosen] = useState<string | null>(null);
  const [pointed, setPointed] = useState<string | null>(null);
  const [starting, setStarting] = useState(false);
  const [describing, setDescribing] = useState(false);
  const theme = pointed ?? chosen;
  const src = `/templates/${line.id}/picture?revision=${line.revision}${theme ? `&theme=${encodeURIComponent(theme)}` : ""}`;
  const remove = () => {
    fetcher.submit({ intent: "delete", id: line.id }, { method: "post" });
    notify({
      text: `“${line.name}” is deleted. Campaigns made from it stay as they are.`,
      action: {
        label: "Undo",
        run: () => undo.submit({ intent: "restore", id: line.id }, { method: "post", action: "/templates" }),
      },
    });
  };
  return (
    <aside
      aria-label={line.name}
      className="flex w-94 shrink-0 flex-col gap-3 overflow-y-auto border-l bg-paper p-5 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    >
      <header className="flex flex-wrap items-center gap-2">
        <h2 className="min-w-0 grow text-[15px] font-semibold">{line.name}</h2>
        <p className="text-ink-soft">
          {line.lastUsed === null
            ? "not used yet"
            : `used ${line.used === 1 ? "once" : `${line.used} times`}, last ${timeWords(line.lastUsed, now)}`}
        </p>
      </header>
      <div className="flex items-start gap-3">
        <span className="shrink-0 overflow-hidden rounded-md border">
          <TruePicture title="On a desktop" src={src} width={line.width + 40} shown={232} height={420} />
        </span>
        <div className="space-y-2">
          <span className="block w-fit overflow-hidden rounded-md border">
            <FramedPicture title="On a phone" src={src} width={375} shown={88} height={166} />
          </span>
          <p className="text-ink-soft">With your brand, as a reader would get it</p>
        </div>
      </div>
      <fieldset onPointerLeave={() => setPointed(null)}>
        <legend className="mb-1.5 font-semibold">In another theme</legend>
        <div className="grid grid-cols-6 gap-2">
          {themes.map((one) => (
            <button
              key={one.id}
              type="button"
              aria-label={one.name}
              title={one.name}
              aria-pressed={(chosen ?? line.theme) === one.id}
              onPointerMove={() => setPointed(one.id)}
              onFocus={() => setPointed(one.id)}
              onBlur={() => setPointed(null)}
              onClick={() => setChosen(one.id === line.theme ? null : one.id)}
              className="flex h-10 flex-col justify-center gap-1 rounded border px-1.5 aria-pressed:outline-2 aria-pressed:outline-mulberry"
              style={{ background: one.light.paper }}
            >
              <span className="h-1.5 w-3/5" style={{ background: one.light.heading }} />
              <span className="h-1 w-full opacity-60" style={{ background: one.light.text }} />
              <span className="h-1.5 w-2/5 rounded-sm" style={{ background: one.light.accent }} />
            </button>
          ))}
        </div>
        <p className="mt-1.5 text-ink-soft">
          {theme
            ? themes.find(({ id }) => id === theme)?.name
            : "Point at one to see the letter in it. Words stay."}
        </p>
      </fieldset>
      {line.offers > 0 && (
        <Link
          to={`/templates/${line.id}/offer`}
          className="rounded-md bg-amber-wash px-3 py-2 text-amber underline"
        >
          {counted(line.offers, "unsent campaign")} made from it {line.offers === 1 ? "lacks" : "lack"} its
          changes. Look at them.
        </Link>
      )}
      <div className="mt-auto flex flex-wrap gap-2 pt-2">
        <Button kind="primary" className="grow" onClick={() => setStarting(true)}>
          Start from it
        </Button>
        {line.own ? (
          <Link to={`/campaigns/${line.id}/compose`} className={buttonLook()}>
            Edit the template
          </Link>
        ) : (
          <Form method="post">
            <input type="hidden" name="intent" value="copy" />
            <input type="hidden" name="id" value={line.id} />
            <Button type="submit" disabled={state !== "idle"}>
              Change a copy
            </Button>
          </Form>
        )}
        <a
          href={`/templates/${line.id}/file`}
          aria-label="Keep it as a file"
          title="Keep it as a file"
          className="inline-flex size-8 items-center justify-center rounded-md hover:bg-black/6"
        >
          <Download className="size-4" aria-hidden />
        </a>
        {line.own && (
          <>
            <IconButton icon={Pencil} label="Name and purpose" onClick={() => setDescribing(true)} />
            <IconButton icon={Trash2} label="Delete the template" onClick={remove} />
          </>
        )}
      </div>
      <Dialog open={starting} onClose={() => setStarting(false)} title={`Start from “${line.name}”`}>
        <Form method="post" className="space-y-4">
          <input type="hidden" name="intent" value="start" />
          <input type="hidden" name="id" value={line.id} />
          {chosen && <input type="hidden" name="theme" value={chosen} />}
          <Labelled label="Name of the campaign" hint="Only you see it.">
            <Input name="name" placeholder={line.name} autoFocus />
          </Labelled>
          <div className="flex justify-end">
            <Button type="submit" kind="primary" disabled={state !== "idle"}>
              Start composing
            </Button>
          </div>
        </Form>
      </Dialog>
      <Dialog open={describing} onClose={() => setDescribing(false)} title="Name and purpose">
        <fetcher.Form method="post" className="space-y-4" onSubmit={() => setDescribing(false)}>
          <input type="hidden" name="intent" value="describe" />
          <input type="hidden" name="id" value={line.id} />
          <FactsFields {...line} />
          <div className="flex justify-end">
            <Button type="submit" kind="primary">
              Keep
            </Button>
          </div>
        </fetcher.Form>
      </Dialog>
    </aside>
  );
}
