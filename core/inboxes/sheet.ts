import { escapeHtml } from "../program";
import { INBOXES, type InboxName } from "./classes";
import { asSeen } from "./seen";

/** The widths at which a class is shown, in px. */
const WIDTHS: Record<InboxName, readonly number[]> = {
  light: [640, 375, 320],
  dark: [640, 375],
  stripped: [640, 375, 320],
  word: [640],
  picturesOff: [640, 320],
  partial: [640],
  full: [640],
};

/**
 * One page that shows a message as every class of mail program would, each in a frame of its own width, and its text
 * part beside them. The frames run nothing.
 */
export function inboxesPage(title: string, message: { html: string; text: string }): string {
  const frames = INBOXES.flatMap(({ name, label }) =>
    WIDTHS[name].map(
      (width) =>
        `<figure style="width:${width}px"><figcaption>${label}, ${width} px</figcaption><iframe data-inbox="${name}" data-width="${width}" width="${width}" sandbox="allow-same-origin" scrolling="no" srcdoc="${escapeHtml(asSeen(message.html, name))}"></iframe></figure>`,
    ),
  );
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escapeHtml(title)}</title><style>
body{margin:0;padding:24px;background:#E7E6EA;color:#1E1B24;font:14px/1.4 sans-serif}
main{display:flex;flex-wrap:nowrap;gap:24px;align-items:flex-start;width:max-content}
figure{margin:0}figcaption{padding:0 0 6px;font-weight:600}iframe{display:block;border:0;background:#fff}
pre{margin:0;padding:16px;width:78ch;background:#fff;font:13px/1.45 monospace;white-space:pre-wrap;overflow-wrap:anywhere}
</style></head><body><h1>${escapeHtml(title)}</h1><main>${frames.join("")}<figure><figcaption>Text only</figcaption><pre>${escapeHtml(message.text)}</pre></figure></main>
<script>for(const frame of document.querySelectorAll("iframe")){const fit=()=>{const page=frame.contentDocument;if(page&&page.body)frame.height=page.body.scrollHeight};frame.addEventListener("load",fit);fit()}</script></body></html>`;
}
