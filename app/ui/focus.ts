/** The element that has the focus, also within a shadow root; null when it is the page itself. */
export function deepFocus(): HTMLElement | null {
  let element = document.activeElement;
  while (element?.shadowRoot?.activeElement) element = element.shadowRoot.activeElement;
  return element instanceof HTMLElement && element !== document.body ? element : null;
}

/** Marks the element to which the focus goes when nothing else can have it. */
export const FOCUS_HOME = { "data-focus-home": "" };

/** Gives the focus back to an element, or to the home of the focus when it has gone. */
export function giveFocus(element: HTMLElement | null): void {
  const there = element?.isConnected && element.getClientRects().length > 0 ? element : null;
  (there ?? document.querySelector<HTMLElement>("[data-focus-home]"))?.focus({ preventScroll: true });
}
