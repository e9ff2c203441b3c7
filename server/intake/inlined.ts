/**
 * Writes the rules of an email's style sheets into its elements, since a code block cannot have style sheets. Rules
 * for certain screens cannot be written so; they are listed as lost.
 */
export async function inlined(html: string): Promise<{ html: string; lost: string[] }> {
  const { default: juice } = await import("juice");
  const lost: string[] = [];
  const sheets = [...html.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/gi)].map(([, css]) => css).join("\n");
  const screens = sheets.match(/@media/gi)?.length ?? 0;
  const others = sheets.match(/@(import|font-face|keyframes|supports)/gi)?.length ?? 0;
  if (screens > 0)
    lost.push(screens === 1 ? "a rule for certain screens" : `${screens} rules for certain screens`);
  if (others > 0) lost.push("fonts or motion of its own");
  if (/<link[^>]+stylesheet/i.test(html)) lost.push("style sheets kept elsewhere");
  let whole = html;
  try {
    whole = juice(html, { removeStyleTags: true, preserveMediaQueries: false, applyWidthAttributes: true });
  } catch {
    // A style sheet that cannot be understood leaves the elements with what they have of their own.
    lost.push("a style sheet with errors in it");
  }
  const body = /<body[^>]*>([\s\S]*)<\/body>/i.exec(whole);
  return { html: (body?.[1] ?? whole).trim(), lost };
}
