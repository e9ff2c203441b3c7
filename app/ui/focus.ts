/** Where the focus is, and where in a field's words. */
export interface FocusHolder {
  element: HTMLElement;
  caret: [from: number, to: number] | null;
}

/** Where the focus is, also within a shadow root; null when it is the page itself. */
export function focusHolder(): FocusHolder | null {
  let element = document.activeElement;
  while (element?.shadowRoot?.activeElement) element = element.shadowRoot.activeElement;
  if (!(element instanceof HTMLElement) || element === document.body) return null;
  return { element, caret: caretIn(element) };
}

/** Of fields that have words with places in them; an address or a number has none. */
function caretIn(element: HTMLElement): FocusHolder["caret"] {
  if (!(element instanceof HTMLInputElement || element instanceof HTMLTextAreaElement)) return null;
  const { selectionStart: from, selectionEnd: to } = element;
  return from === null || to === null ? null : [from, to];
}

/** Marks the element to which the focus goes when nothing else can have it. */
export const FOCUS_HOME = { "data-focus-home": "" };

/** Gives the focus back to where it was, or to the home of the focus when that has gone. */
export function giveFocus(place: FocusHolder | null): void {
  if (!place?.element.isConnected || place.element.getClientRects().length === 0) {
    document.querySelector<HTMLElement>("[data-focus-home]")?.focus({ preventScroll: true });
    return;
  }
  const { element, caret } = place;
  element.focus({ preventScroll: true });
  // Whoever goes on typing does not write over what is there.
  if (caret) (element as HTMLInputElement).setSelectionRange(...caret);
}
