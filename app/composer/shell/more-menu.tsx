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
import { useFind } from "../../find/find";
import { IconButton } from "../../ui/button";
import { Menu } from "../../ui/floating";
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

/** What is done to a design as a whole. */
export function MoreMenu() {
  const find = useFind();
  const set = useComposer((state) => state.set);
  const campaign = useComposer((state) => state.facts.campaign);
  const reader = useComposer((state) => state.reader);
  const only = useComposer((state) => state.email.only);
  return (
    <Menu
      button={<IconButton icon={Ellipsis} label="More" />}
      parts={[
        {
          entries: [
            { label: "Find anything", icon: Search, keys: "Ctrl + K", run: () => setTimeout(find.open) },
            ...DIALOGS.filter(({ dialog }) => !only || dialog === "versions" || dialog === "languages").map(
              ({ dialog, ...entry }) => ({ ...entry, run: () => set({ dialog }) }),
            ),
          ],
        },
        {
          label: "Take out",
          entries: FILES.filter(({ format }) => !only || /^(txt|eml|json)$/.test(format)).map(
            ({ format, label }) => ({
              label,
              icon: Download,
              file: `/campaigns/${campaign}/export/${format}${reader.id > 0 ? `?reader=${reader.id}` : ""}`,
            }),
          ),
        },
      ]}
    />
  );
}
