import { ArrowLeft, Download, Redo2, Trash2, Undo2 } from "lucide-react";
import { useEffect, useState } from "react";
import { commands } from "~/core/compose";
import { THEME_PARTS, type Theme } from "~/core/email";
import type { Use } from "~/server/mentions";
import { ask, tell } from "../../requests";
import { Button, IconButton } from "../../ui/button";
import { Choice, Input, Labelled, Problem } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { Part } from "../controls/part";
import { useComposer, useComposerStore } from "../state/store";
import { ColourOf, FieldOf, Pairs, type Scheme } from "./theme-lines";
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
        <IconButton icon={ArrowLeft} label="Leave the theme as it was" onClick={close} />
        <h2 className="grow font-semibold">{making.own ? "Change the theme" : "A theme of your own"}</h2>
        <IconButton
          icon={Undo2}
          label="Undo the change to the theme"
          disabled={!undo}
          onClick={() => undo?.()}
        />
        <IconButton
          icon={Redo2}
          label="Make the change to the theme again"
          disabled={!redo}
          onClick={() => redo?.()}
        />
        <a
          href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify({ septimaTheme: 1, theme }, null, 2))}`}
          download={`${theme.name}.theme.json`}
          aria-label="Keep it as a file"
          title="Keep it as a file"
          className="inline-flex size-8 items-center justify-center rounded-md hover:bg-black/6"
        >
          <Download className="size-4" aria-hidden />
        </a>
        {making.own && <IconButton icon={Trash2} label="Delete the theme" onClick={() => void remove()} />}
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
      {THEME_PARTS.map(({ title, fields }) => (
        <Part key={title} title={title}>
          <fieldset aria-label={title} className="space-y-2.5">
            {fields.map((field) => (
              <FieldOf
                key={field.path}
                field={field}
                theme={theme}
                onChange={(next) => change(next, field.path)}
              />
            ))}
          </fieldset>
        </Part>
      ))}
    </>
  );
}
