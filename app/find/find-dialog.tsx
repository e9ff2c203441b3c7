import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { ask } from "../requests";
import type { FoundDesign } from "../routes/find";
import { useAnswer } from "../ui/use-answer";
import type { FindGroup } from "./findable";

const PAGES = [
  { to: "/campaigns", label: "Campaigns" },
  { to: "/templates", label: "Templates" },
  { to: "/audience", label: "Audience" },
  { to: "/audience/import", label: "Import contacts" },
  { to: "/audience/fields", label: "Fields" },
  { to: "/referrals", label: "Referrals" },
  { to: "/lookups", label: "Lookups" },
  { to: "/sources", label: "Sources" },
  { to: "/pictures", label: "Pictures" },
  { to: "/brand", label: "Brand" },
  { to: "/postroom", label: "Postroom" },
  { to: "/settings", label: "Settings" },
  { to: "/settings/sending", label: "Settings of sending: relay, keys" },
  { to: "/settings/returned", label: "What came back: not delivered, called spam, answers" },
];

/** How well something fits: every word sought is in its label, best at the beginning, or in the words about it. */
function rank(sought: string, [label = "", more = ""]: readonly string[]): number {
  const wanted = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const [name, all] = [label.toLowerCase(), `${label} ${more}`.toLowerCase()];
  if (name === wanted.join(" ")) return 1;
  if (wanted.every((word) => name.includes(word))) return name.startsWith(wanted[0] ?? "") ? 0.9 : 0.8;
  return wanted.every((word) => all.includes(word)) ? 0.5 : 0;
}

/** A line to type in, and what fits it. */
export default function FindDialog({ groups, onClose }: { groups: readonly FindGroup[]; onClose(): void }) {
  const navigate = useNavigate();
  const [query, setQuery] = useState("");
  // Words of the body are looked for by the server, a moment after the last letter.
  const { last: found, lastKey: by } = useAnswer(
    query,
    (signal) => ask("/find", { query: { q: query }, signal }),
    query === "" ? 0 : 150,
  );
  const [chosen, setChosen] = useState("");
  const list = useRef<HTMLDivElement>(null);
  // What the server found comes later than the rest: the first of all is meant then.
  // biome-ignore lint/correctness/useExhaustiveDependencies: when what was found changes
  useEffect(() => {
    setChosen(list.current?.querySelector("[cmdk-item]")?.getAttribute("data-value") ?? "");
  }, [found]);
  const designs = (kind: FoundDesign["kind"], to: (id: string) => string) =>
    (found ?? [])
      .filter((one) => one.kind === kind)
      .slice(0, 60)
      .map(({ id, name, aside }) => ({
        // Another one for other words: what is known under an id is not ranked again.
        id: `${kind} ${id} ${by}`,
        label: name,
        // What the server found by the words of a body is kept by them here.
        words: `${aside} ${by}`,
        aside,
        run: () => void navigate(to(id)),
      }));
  const all: FindGroup[] = [
    ...groups,
    { title: "Campaigns", items: designs("campaign", (id) => `/campaigns/${id}/compose`) },
    { title: "Templates", items: designs("template", (id) => `/templates?template=${id}`) },
    { title: "Pictures", items: designs("picture", (id) => `/pictures?picture=${id}`) },
    {
      title: "Pages",
      items: PAGES.map(({ to, label }) => ({ id: to, label, run: () => void navigate(to) })),
    },
  ];
  return (
    <Dialog.Root open onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[14vh] left-1/2 z-40 w-[calc(100vw-2rem)] max-w-xl -translate-x-1/2 overflow-hidden rounded-lg bg-paper shadow-2xl"
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <Dialog.Title className="sr-only">Find anything</Dialog.Title>
          <Command
            loop
            label="Find anything"
            value={chosen}
            onValueChange={setChosen}
            filter={(_value, sought, keywords = []) => rank(sought, keywords)}
          >
            <Command.Input
              autoFocus
              value={query}
              onValueChange={setQuery}
              placeholder="Find a part, a block to add, a campaign, a page"
              className="h-12 w-full border-b px-4 text-[15px] outline-none"
            />
            <Command.List ref={list} className="max-h-[50vh] overflow-y-auto p-2">
              <Command.Empty className="p-3 text-ink-soft">Nothing is called that.</Command.Empty>
              {all
                .filter((group) => group.items.length > 0)
                .map((group) => (
                  <Command.Group
                    key={group.title}
                    heading={group.title}
                    className="mb-1.5 [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-ink-soft"
                  >
                    {group.items.map((item) => (
                      <Command.Item
                        key={item.id}
                        value={`${group.title} ${item.id} ${item.label}`}
                        keywords={[item.label, item.words ?? ""]}
                        onSelect={() => {
                          onClose();
                          item.run();
                        }}
                        className="flex h-8 cursor-pointer items-center gap-2 rounded-md px-2 data-[selected=true]:bg-mulberry-wash"
                      >
                        <span className="grow truncate">{item.label}</span>
                        {item.aside && <span className="shrink-0 text-xs text-ink-soft">{item.aside}</span>}
                      </Command.Item>
                    ))}
                  </Command.Group>
                ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
