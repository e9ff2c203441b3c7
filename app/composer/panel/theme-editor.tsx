import { ArrowLeft, Download, Redo2, Trash2, Undo2 } from "lucide-react";
import { useEffect, useState } from "react";
import { commands } from "~/core/compose";
import { type BrandFont, brandFont, FONTS, type Theme, WEB_FONTS } from "~/core/email";
import type { Use } from "~/server/mentions";
import { ask, tell } from "../../requests";
import { Button, IconButton } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { Choice, Input, Labelled, Line, Problem } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { Switch } from "../../ui/switch";
import { Part } from "../controls/part";
import { useComposer, useComposerStore } from "../state/store";
import { Amount, ColourOf, HeadingLines, Pairs, type Scheme, WEIGHTS, Weight } from "./theme-lines";
import { ThemeOffer } from "./theme-offer";
import { useThemeHistory } from "./use-theme-history";

const ROLES: readonly [role: keyof Theme["light"], label: string][] = [
  ["paper", "Paper"],
  ["table", "Around it"],
  ["text", "Words"],
  ["soft", "Soft words"],
  ["heading", "Headings"],
  ["link", "Links"],
  ["accent", "Buttons"],
  ["onAccent", "On buttons"],
  ["line", "Lines"],
];

const TYPE = [
  ...WEB_FONTS.map(({ family, stack }) => ({ value: stack, label: family, aside: "ships along" })),
  ...FONTS.map(({ name, stack }) => ({ value: stack as string, label: name })),
];

/** A theme being made, with the email beside it: every change shows there at once. */
export default function ThemeEditor() {
  const store = useComposerStore();
  const making = useComposer((state) => state.making);
  const theme = useComposer((state) => state.trial);
  const campaign = useComposer((state) => state.facts.campaign);
  const notify = useNotify();
  const [scheme, setScheme] = useState<Scheme>("light");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [offer, setOffer] = useState<{ theme: Theme; uses: Use[] } | null>(null);
  const { change, undo, redo } = useThemeHistory();
  const brandFonts = useComposer((state) => state.facts.brand.fonts);
  const close = () => store.getState().set({ making: null, trial: null });
  // The canvas follows what is edited: in dark while the dark colours are.
  useEffect(() => {
    store.getState().set({ dark: scheme === "dark" });
    return () => store.getState().set({ dark: false });
  }, [scheme, store]);
  if (offer) return <ThemeOffer {...offer} onClose={close} />;
  if (!making || !theme) return null;

  const save = async (asNew: boolean) => {
    setBusy(true);
    setProblem(null);
    const answer = await tell("/themes", {
      intent: "save",
      theme,
      of: asNew || !making.own ? null : making.of.id,
    });
    setBusy(false);
    if (answer.problem !== null) {
      setProblem(answer.problem);
      return;
    }
    const kept = answer.result.theme;
    const { facts, apply, set } = store.getState();
    const replaced = asNew ? null : making.of.id;
    set({
      facts: {
        ...facts,
        themes: [...facts.themes, kept],
        ownThemes: [...facts.ownThemes.filter(({ id }) => id !== replaced), kept].sort((a, b) =>
          a.name.localeCompare(b.name),
        ),
      },
    });
    apply(commands.setTheme(kept.id), `The theme “${kept.name}”`);
    notify({ text: `“${kept.name}” is kept, and this email has it.` });
    const uses =
      replaced === null
        ? []
        : ((await ask("/removals/:kind/:id", { at: { kind: "theme", id: kept.id } })).result ?? []);
    const others = uses.filter((use) => !use.keys.includes(kept.id) && !use.held && use.id !== campaign);
    if (others.length === 0) close();
    else {
      set({ trial: null });
      setOffer({ theme: kept, uses: others });
    }
  };

  const remove = async () => {
    const { facts, set } = store.getState();
    const before = facts.ownThemes;
    const at = { kind: "theme", id: making.of.id };
    const answer = await tell("/removals/:kind/:id", { removed: true }, { at });
    if (answer.problem !== null) {
      setProblem(answer.problem);
      return;
    }
    set({ facts: { ...facts, ownThemes: before.filter(({ id }) => id !== making.of.id) } });
    notify({
      text: `“${making.of.name}” is deleted. Emails that use it keep it.`,
      action: {
        label: "Undo",
        run: () =>
          void tell("/removals/:kind/:id", { removed: false }, { at }).then(() => {
            const now = store.getState();
            now.set({ facts: { ...now.facts, ownThemes: before } });
          }),
      },
    });
    close();
  };

  return (
    <>
      <div className="flex items-center gap-1 border-b px-2 py-2">
        <IconButton label="Leave the theme as it was" onClick={close}>
          <ArrowLeft className="size-4" />
        </IconButton>
        <h2 className="grow font-semibold">{making.own ? "Change the theme" : "A theme of your own"}</h2>
        <IconButton label="Undo the change to the theme" disabled={!undo} onClick={() => undo?.()}>
          <Undo2 className="size-4" />
        </IconButton>
        <IconButton label="Make the change to the theme again" disabled={!redo} onClick={() => redo?.()}>
          <Redo2 className="size-4" />
        </IconButton>
        <a
          href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify({ septimaTheme: 1, theme }, null, 2))}`}
          download={`${theme.name}.theme.json`}
          aria-label="Keep it as a file"
          title="Keep it as a file"
          className="inline-flex size-8 items-center justify-center rounded-md hover:bg-black/6"
        >
          <Download className="size-4" aria-hidden />
        </a>
        {making.own && (
          <IconButton label="Delete the theme" onClick={() => void remove()}>
            <Trash2 className="size-4" />
          </IconButton>
        )}
      </div>
      <div className="space-y-2.5 border-b px-3.5 py-3.5">
        <Labelled label="Name of the theme">
          <Input
            value={theme.name}
            maxLength={80}
            onChange={(e) => change({ name: e.target.value }, "name")}
          />
        </Labelled>
        {problem && <Problem>{problem}</Problem>}
        <div className="flex flex-wrap gap-2">
          {making.own && (
            <Button kind="primary" disabled={busy} onClick={() => void save(false)}>
              Save the theme
            </Button>
          )}
          <Button kind={making.own ? "plain" : "primary"} disabled={busy} onClick={() => void save(true)}>
            {making.own ? "Save as another" : "Save the theme"}
          </Button>
        </div>
      </div>
      <Part title="Colours">
        <Choice
          label="Colours for"
          value={scheme}
          onChange={setScheme}
          options={[
            { value: "light", label: "By day" },
            { value: "dark", label: "In dark" },
          ]}
        />
        {ROLES.map(([role, label]) => (
          <ColourOf
            key={`${scheme} ${role}`}
            label={label}
            value={theme[scheme][role]}
            onChange={(colour) =>
              change({ [scheme]: { ...theme[scheme], [role]: colour } }, `${scheme} ${role}`)
            }
          />
        ))}
        <Pairs theme={theme} scheme={scheme} />
      </Part>
      <Part title="Type">
        <Line label="Headings">
          <Choose
            value={theme.fonts.heading}
            options={typeFor(theme.fonts.heading, brandFonts)}
            onChange={(heading) => change({ fonts: { ...theme.fonts, heading } }, "heading font")}
          />
        </Line>
        <Line label="Words">
          <Choose
            value={theme.fonts.body}
            options={typeFor(theme.fonts.body, brandFonts)}
            onChange={(body) => change({ fonts: { ...theme.fonts, body } }, "body font")}
          />
        </Line>
        <Amount
          label="Size"
          value={theme.text.size}
          min={14}
          max={24}
          onChange={(size) => change({ text: { ...theme.text, size } }, "text size")}
        />
        <Amount
          label="Line height"
          unit="%"
          value={Math.round(theme.text.line * 100)}
          min={100}
          max={240}
          onChange={(line) => change({ text: { ...theme.text, line: line / 100 } }, "text line")}
        />
        <Amount
          label="Between paragraphs"
          value={theme.text.gap}
          max={80}
          onChange={(gap) => change({ text: { ...theme.text, gap } }, "text gap")}
        />
      </Part>
      {(["h1", "h2", "h3"] as const).map((level, index) => (
        <Part key={level} title={["Largest headings", "Middle headings", "Small headings"][index]}>
          <HeadingLines
            name={`heading ${index + 1}`}
            look={theme.headings[level]}
            onChange={(look) => change({ headings: { ...theme.headings, [level]: look } }, level)}
          />
        </Part>
      ))}
      <Part title="Links">
        <Switch
          checked={theme.links.underline}
          onChange={(underline) => change({ links: { ...theme.links, underline } }, "underline")}
        >
          Links are underlined
        </Switch>
        <Line label="Their weight">
          <Choose
            label="Weight of links"
            value={String(theme.links.weight ?? "words")}
            options={[{ value: "words", label: "That of the words" }, ...WEIGHTS]}
            onChange={(weight) =>
              change(
                { links: { ...theme.links, weight: weight === "words" ? undefined : Number(weight) } },
                "link weight",
              )
            }
          />
        </Line>
      </Part>
      <Part title="Buttons">
        <Amount
          label="Corners"
          value={theme.button.radius}
          max={60}
          onChange={(radius) => change({ button: { ...theme.button, radius } }, "button radius")}
        />
        <Amount
          label="Beside words"
          value={theme.button.padX}
          max={80}
          onChange={(padX) => change({ button: { ...theme.button, padX } }, "button padX")}
        />
        <Amount
          label="Above words"
          value={theme.button.padY}
          max={40}
          onChange={(padY) => change({ button: { ...theme.button, padY } }, "button padY")}
        />
        <Amount
          label="Their size"
          value={theme.button.size}
          min={12}
          max={32}
          onChange={(size) => change({ button: { ...theme.button, size } }, "button size")}
        />
        <Weight
          label="Their weight"
          value={theme.button.weight}
          onChange={(weight) => change({ button: { ...theme.button, weight } }, "button weight")}
        />
      </Part>
      <Part title="Shape and space">
        <Amount
          label="Width"
          value={theme.width}
          min={320}
          max={700}
          onChange={(width) => change({ width }, "width")}
        />
        <Amount
          label="Picture corners"
          value={theme.shape.picture}
          max={100}
          onChange={(picture) => change({ shape: { ...theme.shape, picture } }, "shape picture")}
        />
        <Amount
          label="Box corners"
          value={theme.shape.box}
          max={60}
          onChange={(box) => change({ shape: { ...theme.shape, box } }, "shape box")}
        />
        {(
          [
            ["inset", "At the sides"],
            ["section", "Of sections"],
            ["block", "Of blocks"],
            ["gap", "Of columns"],
          ] as const
        ).map(([key, label]) => (
          <Amount
            key={key}
            label={label}
            value={theme.space[key]}
            max={120}
            onChange={(space) => change({ space: { ...theme.space, [key]: space } }, key)}
          />
        ))}
      </Part>
    </>
  );
}

/** What a theme can be set in: the brand's fonts first; a stack that is none of these stays in the list. */
function typeFor(stack: string, own: readonly BrandFont[] = []) {
  const all = [
    ...own.map(brandFont).map(({ family, stack: value }) => ({ value, label: family, aside: "the brand’s" })),
    ...TYPE,
  ];
  return all.some(({ value }) => value === stack)
    ? all
    : [{ value: stack, label: stack.split(",")[0] }, ...all];
}
