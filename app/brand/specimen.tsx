import { type Theme, themePairs } from "~/core/email";

/** What a theme does with headings, words, a link and something to press, in its own type. */
export function Specimen({ theme, scheme }: { theme: Theme; scheme: "light" | "dark" }) {
  const colours = theme[scheme];
  const { fonts, headings, text, links, button } = theme;
  const poor = themePairs(theme, scheme).filter(({ ratio, wanted }) => ratio < wanted);
  const heading = (level: "h1" | "h3") => {
    const { size, line, weight, tracking = 0, capitals, role = "heading" } = headings[level];
    const shown = Math.min(30, Math.round(size * 0.7));
    return {
      fontFamily: fonts.heading,
      fontSize: shown,
      lineHeight: line,
      fontWeight: weight,
      letterSpacing: `${(shown * tracking) / 1000}px`,
      textTransform: capitals ? "uppercase" : "none",
      color: colours[role],
    } as const;
  };
  return (
    <figure className="min-w-0">
      <div className="rounded-md border p-2" style={{ background: colours.table }}>
        <div
          className="space-y-1.5 overflow-hidden rounded-sm p-3"
          style={{ background: colours.paper, color: colours.text, fontFamily: fonts.body }}
        >
          <p style={heading("h3")}>This week</p>
          <p className="wrap-anywhere" style={heading("h1")}>
            Hold your beans
          </p>
          <p style={{ fontSize: text.size * 0.8, lineHeight: text.line }}>
            Sow indoors,{" "}
            <span
              style={{
                color: colours.link,
                textDecoration: links.underline ? "underline" : "none",
                fontWeight: links.weight,
              }}
            >
              read on
            </span>
            .
          </p>
          <p
            className="inline-block"
            style={{
              background: colours.accent,
              color: colours.onAccent,
              borderRadius: button.radius,
              padding: `${button.padY * 0.6}px ${button.padX * 0.6}px`,
              fontSize: button.size * 0.8,
              fontWeight: button.weight,
            }}
          >
            To the shop
          </p>
        </div>
      </div>
      <figcaption className="mt-1 text-xs text-ink-soft">
        {scheme === "light" ? "By day" : "In dark"},{" "}
        {poor.length === 0
          ? "every pair can be read"
          : `hard to read: ${poor.map(({ label }) => label).join(", ")}`}
      </figcaption>
    </figure>
  );
}
