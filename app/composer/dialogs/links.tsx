import { CircleAlert, CircleCheck } from "lucide-react";
import { useState } from "react";
import { commands, type EmailLink, linksOf, replacedLinks, setLinks } from "~/core/compose";
import { itemTagOf, type LinkRules } from "~/core/email";
import { leads } from "~/core/markup";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Input, Labelled } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { Switch } from "../../ui/switch";
import { counted } from "../../ui/time";
import { useCanvas } from "../canvas/context";
import { HrefInput, HrefProblem } from "../controls/href";
import { ItemList } from "../controls/items";
import { targetNamed } from "../controls/link-targets";
import { useComposer, useComposerStore } from "../state/store";

const NO_RULES: LinkRules = { parameters: [], untracked: [] };

/** Every link of the email: where it stands, its words and its address, to change one or all. */
export default function LinksDialog() {
  const set = useComposer((state) => state.set);
  const email = useComposer((state) => state.email);
  const facts = useComposer((state) => state.facts);
  const links = linksOf(email);
  const [filter, setFilter] = useState("");
  const wanted = filter.trim().toLowerCase();
  const shown = links.filter(({ where, words, href }) => {
    const { name = "", what = "" } = targetNamed(href, { email, facts }) ?? {};
    return `${where} ${words} ${href} ${name} ${what}`.toLowerCase().includes(wanted);
  });
  const empty = links.filter((link) => link.fixed === null && !leads(link.href)).length;
  return (
    <Dialog
      open
      onClose={() => set({ dialog: null })}
      title="Links"
      about={`${counted(links.length, "link")}${empty > 0 ? `, ${empty} of them without an address that works` : ""}. Links of live blocks come from their source.`}
      size="large"
    >
      <div className="grid grid-cols-[minmax(0,1fr)_260px] gap-6">
        <div>
          <Input
            aria-label="Filter the links"
            placeholder="Filter by place, words or address"
            className="mb-3"
            value={filter}
            onChange={(event) => setFilter(event.target.value)}
          />
          <div className="max-h-[56vh] overflow-y-auto rounded-md border" tabIndex={-1}>
            <table className="w-full">
              <thead className="sticky top-0 bg-paper text-left text-xs text-ink-soft">
                <tr className="border-b">
                  <th scope="col" className="p-2 font-medium">
                    Where
                  </th>
                  <th scope="col" className="p-2 font-medium">
                    Words
                  </th>
                  <th scope="col" className="w-1/2 p-2 font-medium">
                    Leads to
                  </th>
                  <th scope="col" className="p-2 font-medium">
                    Tracked
                  </th>
                </tr>
              </thead>
              <tbody>
                {shown.map((link) => (
                  <LinkRow key={linkKey(link)} link={link} />
                ))}
              </tbody>
            </table>
            {shown.length === 0 && (
              <p className="p-4 text-ink-soft">
                {links.length === 0 ? "This email has no links yet." : "No link fits the filter."}
              </p>
            )}
          </div>
        </div>
        <div className="space-y-6">
          <Replace links={links} />
          <Counted />
          <Parameters />
        </div>
      </div>
    </Dialog>
  );
}

const linkKey = ({ block, path, run, words }: EmailLink) =>
  `${block} ${path ?? words} ${run ? `${run.line} ${run.from}` : ""}`;

function LinkRow({ link }: { link: EmailLink }) {
  const store = useComposerStore();
  const canvas = useCanvas();
  const rules = useComposer((state) => state.email.links) ?? NO_RULES;
  const { apply, select, set } = store.getState();
  const safe = leads(link.href);
  const web = /^https?:/i.test(link.href.trim()) || itemTagOf(link.href) !== null;
  const tracked = !rules.untracked.includes(link.href.trim());
  return (
    <tr className="border-b align-top last:border-b-0">
      <td className="max-w-40 p-2">
        <button
          type="button"
          className="block max-w-full truncate text-left underline decoration-line underline-offset-2 hover:decoration-ink"
          onClick={() => {
            set({ dialog: null });
            select(link.block);
            canvas.reveal(link.block);
          }}
        >
          {link.where}
        </button>
      </td>
      <td className="max-w-40 p-2">
        <span className="block truncate" title={link.words}>
          {link.words || "–"}
        </span>
      </td>
      <td className="p-1.5">
        {link.fixed ? (
          <span className="block truncate px-1 text-ink-soft">
            {link.href ? `${link.href} (${link.fixed.toLowerCase()})` : link.fixed}
          </span>
        ) : (
          <>
            <div className="flex items-center gap-1.5">
              {safe ? (
                <CircleCheck className="size-4 shrink-0 text-green" aria-label="Works in an email" />
              ) : (
                <CircleAlert className="size-4 shrink-0 text-amber" aria-label="Leads nowhere" />
              )}
              <HrefInput
                aria-label={`Address of “${link.words || link.where}”`}
                value={link.href}
                onChange={(href) =>
                  apply(setLinks([{ link, href: href }]), "Changing a link", `link ${linkKey(link)}`)
                }
              />
            </div>
            <HrefProblem href={link.href} />
          </>
        )}
      </td>
      <td className="p-2 text-center">
        {web && link.fixed === null && (
          <input
            type="checkbox"
            aria-label={`“${link.words || link.where}” is tracked: it is counted, and gets the parameters`}
            checked={tracked}
            onChange={(event) => {
              const href = link.href.trim();
              const untracked = event.target.checked
                ? rules.untracked.filter((one) => one !== href)
                : [...rules.untracked, href];
              apply(commands.setWhole({ links: { ...rules, untracked } }), "Changing a link");
            }}
          />
        )}
      </td>
    </tr>
  );
}

function Replace({ links }: { links: readonly EmailLink[] }) {
  const store = useComposerStore();
  const notify = useNotify();
  const [sought, setSought] = useState("");
  const [instead, setInstead] = useState("");
  const found = replacedLinks(links, sought, instead);
  return (
    <form
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (found.length > 0 && store.getState().apply(setLinks(found), "Replacing in links"))
          notify({ text: `${counted(found.length, "link")} changed. Undo brings them back.` });
      }}
    >
      <h3 className="font-semibold">Find and replace</h3>
      <Labelled label="In the address">
        <Input value={sought} onChange={(event) => setSought(event.target.value)} />
      </Labelled>
      <Labelled label="Instead">
        <Input value={instead} onChange={(event) => setInstead(event.target.value)} />
      </Labelled>
      <Button type="submit" disabled={found.length === 0}>
        {sought === "" ? "Replace" : `Replace in ${counted(found.length, "link")}`}
      </Button>
    </form>
  );
}

/** Whether what readers do with it is counted. */
function Counted() {
  const store = useComposerStore();
  const rules = useComposer((state) => state.email.links) ?? NO_RULES;
  const set = (change: Partial<LinkRules>) =>
    store.getState().apply(commands.setWhole({ links: { ...rules, ...change } }), "Changing what is counted");
  return (
    <section className="space-y-2">
      <h3 className="font-semibold">What is counted</h3>
      <Switch checked={rules.clicks !== false} onChange={(clicks) => set({ clicks })}>
        Presses on tracked links
      </Switch>
      <Switch checked={rules.openings !== false} onChange={(openings) => set({ openings })}>
        Openings, by a picture nobody sees
      </Switch>
      <p className="text-xs text-ink-soft">
        In what is sent, tracked links lead over an address of each reader’s own. Previews and proofs show
        where they lead.
      </p>
    </section>
  );
}

/** What is added to the address of every tracked link. */
function Parameters() {
  const store = useComposerStore();
  const rules = useComposer((state) => state.email.links) ?? NO_RULES;
  const parameters = (next: typeof rules.parameters, label: string) =>
    store.getState().apply(commands.setWhole({ links: { ...rules, parameters: next } }), label, "parameters");
  const shown = rules.parameters
    .filter(({ name }) => name !== "")
    .map(({ name, value }) => `${encodeURIComponent(name)}=${encodeURIComponent(value)}`)
    .join("&");
  return (
    <section className="space-y-2">
      <h3 className="font-semibold">Parameters for all</h3>
      <p className="text-xs text-ink-soft">
        Added to every tracked link of the web, so that your site can tell where readers came from.
      </p>
      <ItemList
        items={rules.parameters}
        noun="parameter"
        most={20}
        fresh={() => ({ name: "", value: "" })}
        onChange={parameters}
      >
        {(parameter, index, change) => (
          <div className="grid grid-cols-2 gap-1.5">
            <Input
              aria-label={`Name of parameter ${index + 1}`}
              placeholder="name"
              maxLength={60}
              value={parameter.name}
              onChange={(event) => change({ name: event.target.value })}
            />
            <Input
              aria-label={`Value of parameter ${index + 1}`}
              placeholder="value"
              maxLength={200}
              value={parameter.value}
              onChange={(event) => change({ value: event.target.value })}
            />
          </div>
        )}
      </ItemList>
      {shown !== "" && <p className="font-mono text-xs break-all text-ink-soft">…?{shown}</p>}
    </section>
  );
}
