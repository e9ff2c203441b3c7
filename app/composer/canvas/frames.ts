/**
 * HTML written by hand, on the canvas: in a frame that runs nothing and fetches nothing but our own pictures, as tall
 * as what is in it. Presses go through it to the block.
 */
import type { Stays } from "../../ui/patch";

const POLICY = "default-src 'none'; img-src 'self'; style-src 'unsafe-inline'";

/** How words of the email look where the frame stands; they look the same inside. */
const TAKEN_OVER = ["color", "font-family", "font-size", "line-height", "direction"] as const;

/** What stands in each frame, as it was written. */
const framed = new WeakMap<Node, string>();

/** What is in it, and the rules that come with it. */
const whole = (holder: HTMLElement) => `${holder.dataset.framed}${holder.innerHTML}`;

/** A frame on the canvas stays when it holds what was drawn anew. */
export const sameFrame: Stays = (old, next) => {
  const html = framed.get(old);
  return html !== undefined && next instanceof HTMLElement && whole(next) === html && "inside";
};

/** Puts what is marked so into frames. @param before the element they take the place of, whose heights they begin with */
export function frameOwnHtml(row: HTMLElement, before?: HTMLElement): void {
  const known = before ? [...before.querySelectorAll<HTMLIFrameElement>("[data-framed] > iframe")] : [];
  for (const [index, holder] of row.querySelectorAll<HTMLElement>("[data-framed]").entries()) {
    framed.set(holder, whole(holder));
    const frame = document.createElement("iframe");
    frame.title = "HTML of your own";
    // Without scripts of its own; of the same origin, so that its height can be read.
    frame.setAttribute("sandbox", "allow-same-origin");
    frame.inert = true;
    frame.srcdoc = `<!doctype html><html><head><meta http-equiv="content-security-policy" content="${POLICY}"><style>html{overflow:hidden}body{margin:0;display:flow-root;overflow-wrap:anywhere;word-break:break-word}${holder.dataset.framed ?? ""}</style></head><body class="${holder.className}">${holder.innerHTML}</body></html>`;
    frame.style.cssText = `display:block;width:100%;border:0;pointer-events:none;height:${known[index]?.style.height || "0"}`;
    frame.addEventListener("load", () => {
      const body = frame.contentDocument?.body;
      if (!body) return;
      dressFrame(frame);
      new ResizeObserver(() => {
        frame.style.height = `${Math.ceil(body.getBoundingClientRect().height)}px`;
      }).observe(body);
    });
    holder.replaceChildren(frame);
  }
}

/** Gives all frames the look of the words around them, which changes with dark and with the theme. */
export function dressFrames(root: ParentNode): void {
  for (const frame of root.querySelectorAll<HTMLIFrameElement>("[data-framed] > iframe")) dressFrame(frame);
}

function dressFrame(frame: HTMLIFrameElement): void {
  const inside = frame.contentDocument;
  const holder = frame.parentElement;
  // One that is not loaded yet is dressed when it is: asking for the look now would lay the page out once more.
  if (!holder || inside?.URL !== "about:srcdoc") return;
  const around = getComputedStyle(holder);
  for (const property of TAKEN_OVER)
    inside.body.style.setProperty(property, around.getPropertyValue(property));
}
