import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import type { FoundCampaign } from "../routes/find";
import type { FindGroup } from "./find";

const PAGES = [
  { to: "/campaigns", label: "Campaigns" },
  { to: "/templates", label: "Templates" },
  { to: "/audience", label: "Audience" },
  { to: "/sources", label: "Sources" },
  { to: "/brand", label: "Brand" },
  { to: "/postroom", label: "Postroom" },
];

/** A line to type in, and what fits it. */
export default function FindDialog({ groups, onClose }: { groups: readonly FindGroup[]; onClose(): void }) {
  const navigate = useNavigate();
  const [campaigns, setCampaigns] = useState<FoundCampaign[]>([]);
  useEffect(() => {
    const asking = new AbortController();
    fetch("/find", { signal: asking.signal })
      .then(async (response) => setCampaigns((await response.json()) as FoundCampaign[]))
      .catch(() => undefined);
    return () => asking.abort();
  }, []);
  const all: FindGroup[] = [
    ...groups,
    {
      title: "Campaigns",
      items: campaigns.map(({ id, name, series }) => ({
        id: `campaign ${id}`,
        label: name,
        words: series,
        aside: series,
        run: () => void navigate(`/campaigns/${id}/compose`),
      })),
    },
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
          <Command loop label="Find anything">
            <Command.Input
              autoFocus
              placeholder="Find a part, a block to add, a campaign, a page"
              className="h-12 w-full border-b px-4 text-[15px] outline-none"
            />
            <Command.List className="max-h-[50vh] overflow-y-auto p-2">
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
