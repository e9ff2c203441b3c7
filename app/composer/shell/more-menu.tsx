import {
  Download,
  Ellipsis,
  FileInput,
  FileText,
  History,
  Keyboard,
  Languages,
  LayoutTemplate,
  Link2,
  Search,
  Weight,
} from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useFind } from "../../find/find";
import { IconButton } from "../../ui/button";
import { type ComposerDialog, useComposer } from "../state/store";

const DIALOGS: { dialog: ComposerDialog; label: string; keys?: string; icon: typeof Link2 }[] = [
  { dialog: "links", label: "Links", icon: Link2 },
  { dialog: "weights", label: "Pictures and their weight", icon: Weight },
  { dialog: "languages", label: "Languages", icon: Languages },
  { dialog: "text", label: "Text part", icon: FileText },
  { dialog: "versions", label: "Versions", icon: History },
  { dialog: "template", label: "Keep as a template…", icon: LayoutTemplate },
  { dialog: "intake", label: "Bring in…", icon: FileInput },
  { dialog: "keys", label: "Keys", keys: "?", icon: Keyboard },
];

const FILES = [
  { format: "html", label: "HTML" },
  { format: "txt", label: "Text" },
  { format: "eml", label: "Email file (.eml)" },
  { format: "zip", label: "HTML with pictures (.zip)" },
  { format: "json", label: "Design (.json)" },
] as const;

const ITEM =
  "flex h-8 cursor-default items-center gap-2 rounded-md px-2 outline-none data-highlighted:bg-black/6 text-ink no-underline";

/** What is done to a design as a whole. */
export function MoreMenu() {
  const find = useFind();
  const set = useComposer((state) => state.set);
  const campaign = useComposer((state) => state.facts.campaign);
  const reader = useComposer((state) => state.reader);
  const only = useComposer((state) => state.email.only);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <IconButton label="More">
          <Ellipsis className="size-4" />
        </IconButton>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-40 w-60 rounded-lg border bg-paper p-1 shadow-xl"
        >
          <DropdownMenu.Item className={ITEM} onSelect={() => setTimeout(find.open)}>
            <Search className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
            <span className="grow">Find anything</span>
            <span aria-hidden className="text-xs text-ink-soft">
              Ctrl + K
            </span>
          </DropdownMenu.Item>
          {DIALOGS.filter(({ dialog }) => !only || dialog === "versions" || dialog === "languages").map(
            ({ dialog, label, keys, icon: Icon }) => (
              <DropdownMenu.Item key={dialog} className={ITEM} onSelect={() => set({ dialog })}>
                <Icon className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
                <span className="grow">{label}</span>
                {keys && (
                  <span aria-hidden className="text-xs text-ink-soft">
                    {keys}
                  </span>
                )}
              </DropdownMenu.Item>
            ),
          )}
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <DropdownMenu.Label className="px-2 py-1 text-xs text-ink-soft">Take out</DropdownMenu.Label>
          {FILES.filter(
            ({ format }) => !only || format === "txt" || format === "eml" || format === "json",
          ).map(({ format, label }) => (
            <DropdownMenu.Item key={format} asChild>
              <a
                className={ITEM}
                href={`/campaigns/${campaign}/export/${format}${reader.id > 0 ? `?reader=${reader.id}` : ""}`}
                download
              >
                <Download className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
                {label}
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
