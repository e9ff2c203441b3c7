/** Where large webmail cuts a message off, in octets of its HTML. */
export const CLIPPED = 102 * 1024;

const MARK =
  '<div style="margin:8px 0;padding:6px 0;border-top:3px dashed #B3261E;color:#B3261E;font:bold 13px/1.4 sans-serif;text-align:center;background-color:#FCEEED;">Large webmail cuts the message off here, at 102 KB</div>';

/**
 * A page with a mark where the message is cut off: at the end of the cell in which the limit falls.
 * @param page the message as it is shown
 * @param html the message as it is sent: what is counted
 */
export function withClip(page: string, html: string): string {
  const octets = new TextEncoder().encode(html);
  if (octets.length <= CLIPPED) return page;
  // The page says the same in nearly as many signs: the cut stands after as many closed cells.
  const before = new TextDecoder().decode(octets.slice(0, CLIPPED));
  const cells = before.split("</td>").length - 1;
  let at = -1;
  for (let cell = 0; cell <= cells; cell++) {
    const next = page.indexOf("</td>", at + 1);
    if (next < 0) break;
    at = next;
  }
  return at < 0 ? page : page.slice(0, at) + MARK + page.slice(at);
}
