/**
 * Writes the rules of an email's style sheets into its elements, since a code block cannot have style sheets and
 * whoever takes a letter apart need not know them.
 */
export async function inlined(html: string): Promise<{
  /** All of it, with conditional comments as they were. */
  document: string;
  /** What stands in its body. */
  html: string;
  /** The style sheets as they were. */
  sheets: string;
  lost: string[];
}> {
  const { default: juice } = await import("juice");
  const lost: string[] = [];
  const sheets = [...html.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/gi)].map(([, css]) => css).join("\n");
  const others = sheets.match(/@(import|font-face|keyframes|supports)/gi)?.length ?? 0;
  if (others > 0) lost.push("fonts or motion of its own");
  if (/<link[^>]+stylesheet/i.test(html)) lost.push("style sheets kept elsewhere");
  let document = html;
  try {
    document = juice(html, {
      removeStyleTags: true,
      preserveMediaQueries: false,
      applyWidthAttributes: true,
      preserveImportant: false,
    });
  } catch {
    // A style sheet that cannot be understood leaves the elements with what they have of their own.
    lost.push("a style sheet with errors in it");
  }
  const body = /<body[^>]*>([\s\S]*)<\/body>/i.exec(document);
  return { document, html: (body?.[1] ?? document).trim(), sheets, lost };
}
