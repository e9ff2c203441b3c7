/**
 * A message with the policy that holds for it in a frame, as the first thing in its head: what came before it would
 * put the frame into the mode for old pages, which mail programs are not in.
 */
export function framed(html: string, policy: string): string {
  const meta = `<meta http-equiv="content-security-policy" content="${policy.replaceAll('"', "&quot;")}">`;
  return /<head[^>]*>/i.test(html) ? html.replace(/<head[^>]*>/i, (head) => head + meta) : meta + html;
}
