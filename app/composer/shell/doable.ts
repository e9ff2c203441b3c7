/** What one does with an email, for finding by its words. */
import type { NavigateFunction } from "react-router";
import { commands } from "~/core/compose";
import { THEMES } from "~/core/email";
import { languageName, languagesOf } from "~/core/translation";
import type { Findable, FindGroup } from "../../find/findable";
import type { Composer, ComposerDialog } from "../state/store";

const DIALOGS: readonly { dialog: ComposerDialog; label: string; words: string }[] = [
  { dialog: "links", label: "Links", words: "addresses urls parameters tracking" },
  { dialog: "weights", label: "Pictures and their weight", words: "size kilobytes compress lighter" },
  { dialog: "languages", label: "Languages", words: "translate translation language" },
  { dialog: "text", label: "Text part", words: "plain" },
  { dialog: "versions", label: "Versions", words: "history restore compare" },
  { dialog: "template", label: "Keep as a template…", words: "save reuse" },
  { dialog: "intake", label: "Bring in…", words: "import paste html markdown word" },
  { dialog: "keys", label: "Keys", words: "shortcuts keyboard" },
];

const STEPS = [
  { step: "readers", label: "Readers", words: "audience who gets it lists segments recipients" },
  { step: "preview", label: "Preview", words: "look devices inboxes tablet" },
  { step: "all-editions", label: "All editions", words: "versions readers get grid" },
  { step: "proof", label: "Send a proof", words: "test email" },
  { step: "send", label: "Send", words: "schedule sending when now later" },
];

const LINES = [
  { field: "Subject", words: "title inbox line" },
  { field: "Preheader", words: "preview text inbox line" },
];

/** Puts the cursor into a line of the envelope. */
const write = (field: string) =>
  requestAnimationFrame(() =>
    document.querySelector<HTMLElement>(`[aria-label="${field}"][role=textbox]`)?.focus(),
  );

export function doable(store: Composer, navigate: NavigateFunction): FindGroup[] {
  const state = store.getState();
  const { email, facts, set, dark, width, folded } = state;
  const looks: Findable[] = [
    {
      id: "width",
      label: width === "phone" ? "Desktop width" : "Phone width",
      words: "phone desktop mobile narrow device",
      run: () => set({ width: width === "phone" ? "desktop" : "phone" }),
    },
    {
      id: "dark",
      label: dark ? "Light" : "Dark",
      words: "dark mode night",
      run: () => set({ dark: !dark }),
    },
    { id: "outline", label: "Outline", words: "tree structure", run: () => set({ shelf: "outline" }) },
    {
      id: "ask",
      label: "Ask about this email",
      words: "assistant subjects ideas shorter opening",
      run: () => set({ shelf: "ask", pane: "shelf", folded: { ...folded, shelf: false } }),
    },
  ];
  return [
    {
      title: "Do",
      items: [
        { id: "undo", label: "Undo", run: state.undo },
        { id: "redo", label: "Redo", run: state.redo },
        ...LINES.map(({ field, words }) => ({
          id: `write ${field}`,
          label: `Write the ${field.toLowerCase()}`,
          words,
          run: () => write(field),
        })),
        ...looks,
        ...DIALOGS.map(({ dialog, label, words }) => ({
          id: dialog,
          label,
          words,
          run: () => set({ dialog }),
        })),
      ],
    },
    {
      title: "Go on to",
      items: STEPS.map(({ step, label, words }) => ({
        id: `step ${step}`,
        label,
        words,
        run: () => void navigate(`/campaigns/${facts.campaign}/${step}`),
      })),
    },
    {
      title: "Languages",
      items: languagesOf(email).map((language) => ({
        id: `language ${language}`,
        label: languageName(language),
        words: `language translation ${language}`,
        run: () => set({ dialog: "languages" }),
      })),
    },
    {
      title: "Themes",
      items: [...facts.ownThemes, ...THEMES].map((theme) => ({
        id: `theme ${theme.id}`,
        label: `Theme: ${theme.name}`,
        words: "look colours fonts style",
        run: () => state.apply(commands.setTheme(theme.id), `The theme “${theme.name}”`),
      })),
    },
  ];
}
