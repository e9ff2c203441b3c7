import { FillSchema, type Kind, type Node, type Padding, SPACE, type Theme, WIDTH } from "../email";
import { border, choice, number, space, text, valign } from "./kinds";
import type { ColourProperty, Properties, Themed } from "./property";

const NONE = { top: 0, right: 0, bottom: 0, left: 0 };

const name = (under: string) =>
  text("Name", 120, {
    under,
    placeholder: "for the outline",
    history: "Renaming",
    said: false,
    optional: true,
  });

/** What something stands on: the theme's own colour where nothing is said, another of them by its role, or one's own. */
const fill = (label: string, under: string, theme: Themed<string>): ColourProperty => ({
  kind: "colour",
  label,
  under,
  look: true,
  role: true,
  schema: FillSchema.optional(),
  theme,
});

const inner = (under: string, theme: (theme: Theme) => Partial<typeof NONE>) =>
  space("Inner space", { under, phone: true, theme: (it) => ({ ...NONE, ...theme(it) }) });

const edges = (under: string) => ({
  border: border("Border", { under, history: "Changing the border", theme: ({ light }) => light.line }),
  radius: number("Corners", SPACE, { under, offered: 60, look: true, theme: () => 0, optional: true }),
});

/** On which devices it is; the value says on which it is not. */
const hideOn = choice(
  "Shown",
  [
    { value: "desktop", label: "Phone" },
    { value: "phone", label: "Desktop" },
  ],
  { none: "Both", spoken: "Shown on", optional: true },
);

const paper = ({ light }: Theme) => light.paper;

/**
 * What sections, rows, columns and blocks have besides their children, what their types declare, and who gets them. What
 * is under no title has its control beside others that say the same: how a row is divided, what is different on phones.
 */
export const NODE_PROPERTIES = {
  section: {
    name: name("Look of the section"),
    background: fill("Around", "Look of the section", ({ light }) => light.table),
    contentBackground: fill("Behind", "Look of the section", (theme, { background }) =>
      typeof background === "string" ? background : paper(theme),
    ),
    width: number("Width", WIDTH, {
      under: "Look of the section",
      theme: ({ width }) => width,
      optional: true,
    }),
    ...edges("Look of the section"),
    padding: inner("Look of the section", (theme) => ({
      top: theme.space.section,
      bottom: theme.space.section,
    })),
    hideOn,
  },
  row: {
    gap: number("Gap", SPACE, { offered: 120, theme: (theme) => theme.space.gap, optional: true }),
    valign: valign("Columns stand at", { usual: "top" }),
    name: name("Look of the row"),
    background: fill("Background", "Look of the row", paper),
    padding: inner("Look of the row", (theme) => ({ left: theme.space.inset, right: theme.space.inset })),
    onPhones: choice(
      "Columns",
      [
        { value: "stack", label: "Stacked" },
        { value: "reverse", label: "Reversed" },
        { value: "beside", label: "Beside" },
      ],
      { usual: "stack", spoken: "Columns on phones", optional: true },
    ),
    hideOn,
  },
  column: {
    background: fill("Background", "Look of the column", paper),
    ...edges("Look of the column"),
    padding: inner("Look of the column", () => NONE),
  },
  block: {
    name: name("Place"),
    background: fill("Background", "Place", paper),
    padding: inner("Place", (theme) => ({ top: theme.space.block, bottom: theme.space.block })),
    hideOn,
  },
} satisfies Record<Kind, Properties>;

/** The inner space of a node: its own, or what the theme says. */
export function innerSpace({ kind, node }: Node, theme: Theme): Padding {
  return node.padding ?? NODE_PROPERTIES[kind].padding.theme(theme, node);
}

/** So wide the space beside a row is on phones at most, unless it was chosen for them, in px. */
export const PHONE_INSET = 20;

/** Whether the space beside a row is more than there is room for on phones. */
export const tooWide = ({ left, right }: Padding): boolean => left > PHONE_INSET || right > PHONE_INSET;

/** The inner space of a node on phones where none is chosen for them: what it is elsewhere, of rows less beside them. */
export function usualOnPhones(it: Node, theme: Theme): Padding {
  const usual = innerSpace(it, theme);
  return it.kind === "row" && tooWide(usual) ? { ...usual, left: PHONE_INSET, right: PHONE_INSET } : usual;
}
