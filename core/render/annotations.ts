import { blockType } from "../blocks";
import { type Brand, type Email, walk } from "../email";
import { type Annotated, type RenderContext, writeInline } from "../markup";
import { absolute, written } from "../program";

/**
 * Writes what a message says in a form that machines read (schema.org, as JSON-LD in scripts of their own): who sends it,
 * and what its blocks tell of themselves, such as an event, each for those who get the block.
 */
export function writeAnnotations(email: Email, context: RenderContext): void {
  const { out } = context;
  writeAnnotation(sender(context.brand, context.origin), context);
  const around: (typeof email.sections)[number]["show"][] = [];
  for (const it of walk(email)) {
    if (it.kind === "section") around.splice(0, 2, it.node.show, undefined);
    if (it.kind === "row") around[1] = it.node.show;
    const told = it.kind === "block" ? blockType(it.node.type)?.annotation?.(it.node, context) : null;
    if (!told || it.kind !== "block") continue;
    const [section, row] = around;
    out.when(section, () =>
      out.when(row, () => out.when(it.node.show, () => writeAnnotation(told, context))),
    );
  }
}

function sender({ name, website, logo }: Brand, origin: string): Annotated {
  const src = logo && absolute(logo.src, origin);
  return { "@type": "Organization", name, url: absolute(website, origin), ...(src && { logo: src }) };
}

function writeAnnotation(told: Annotated, context: RenderContext): void {
  const { out } = context;
  out.raw('<script type="application/ld+json">');
  writeValue({ "@context": "https://schema.org", ...told }, { ...context, marks: false, part: "json" });
  out.raw("</script>");
}

function writeValue(value: Annotated | Annotated[string], context: RenderContext): void {
  const { out } = context;
  if (typeof value === "string") out.raw(`"${written(value, "json")}"`);
  else if (Array.isArray(value)) {
    out.raw('"');
    writeInline(value, context);
    out.raw('"');
  } else {
    out.raw("{");
    for (const [index, [key, inner]] of Object.entries(value as Annotated).entries()) {
      out.raw(`${index > 0 ? "," : ""}"${key}":`);
      writeValue(inner, context);
    }
    // Two ends beside each other would look like the end of somebody's placeholder.
    out.raw(" }");
  }
}
