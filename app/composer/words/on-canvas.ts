import { type Block, findNode, type SaidThere, valueAt, type Words } from "~/core/email";
import { linkLook } from "~/core/markup";
import { say, spokenTo, writtenIn } from "../state/language";
import { TYPING } from "../state/store";
import { stepCell } from "../state/table-actions";
import { themeOf } from "../state/theme";
import { mountWords } from "./mount";
import type { Writing } from "./writing";

/**
 * Mounts an editor where words of a block stand (those at its path `key`), with the email's own styles. Each change is a
 * command; changes from elsewhere (undo) are taken over. Returns how to end it.
 */
export function editInPlace(
  writing: Writing,
  cell: HTMLElement,
  block: Block,
  key: string,
): (() => void) | null {
  const { store } = writing;
  const place = cell.querySelector<HTMLElement>(`[data-edit="${CSS.escape(key)}"]`);
  if (!place) return null;
  const { editKind } = place.dataset;
  const kind = editKind === "prose" || editKind === "face" || editKind === "cell" ? editKind : "line";
  const theme = themeOf(store.getState());
  place.style.setProperty("--gap", kind === "prose" ? `${theme.text.gap}px` : "0px");
  place.style.setProperty("--link", theme.light.link);
  for (const [property, value] of Object.entries(linkLook(theme)))
    place.style.setProperty(`--link-${property}`, String(value ?? "inherit"));
  place.replaceChildren();

  const language = spokenTo(store.getState());
  place.lang = language;
  const unit = { block: block.id, path: key };
  const there = () => findNode(store.getState().email, block.id) !== undefined;
  const wordsNow = () => writtenIn(store.getState().email, unit, language) as Words | undefined;
  const words = valueAt(block, key) as Words | undefined;
  let current = words;
  const { editor, take, end } = mountWords(writing, place, {
    kind,
    words,
    label: "Words of the block",
    own: {
      slashes: true,
      step: (direction) => writing.stepWords(direction),
      beside: (side) => stepCell(store, side),
      become: {
        heading: (editor, level) => writing.becomeHeading(editor, level),
        pieces: (editor, pieces) => writing.takePieces(editor, pieces),
      },
      leave: () => writing.leave(),
    },
    onWords(words) {
      const how = { label: "Typing", merge: `${TYPING}${block.id} ${key}`, language };
      say(store, unit, words as SaidThere, how);
      current = wordsNow();
    },
  });
  const stop = store.subscribe((state, before) => {
    if (state.reader !== before.reader && spokenTo(state) !== language) return state.edit(null);
    if (state.email === before.email) return;
    const next = wordsNow();
    if (!there() || next === current) return;
    current = next;
    take(next);
  });
  writing.state.setState({ editor });
  editor.commands.focus(store.getState().caret);
  // At once, not with the next frame: the next key may come before it, and is for these words.
  editor.view.focus();
  return () => {
    stop();
    end();
    if (writing.state.getState().editor === editor) writing.state.setState({ editor: null });
  };
}
