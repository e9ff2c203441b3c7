import { SlidersHorizontal } from "lucide-react";
import { Link } from "react-router";
import type { Theme } from "~/core/email";
import { buttonLook } from "../ui/button";
import { Choose } from "../ui/choose";
import { Labelled } from "../ui/form";
import { Specimen } from "./specimen";

/** How letters look from the start: the theme with its type, buttons, links and spaces. */
export function HouseLook({
  theme: chosen,
  themes,
  draft,
  onChange,
}: {
  theme: string | undefined;
  themes: readonly Theme[];
  /** A draft to change the theme beside; null when there is none. */
  draft: string | null;
  onChange(theme: string | undefined): void;
}) {
  const theme = themes.find(({ id }) => id === chosen);
  return (
    <section className="card space-y-4 p-5" aria-label="The house look">
      <h2 className="text-[15px] font-semibold">The house look</h2>
      <Labelled label="Theme of new emails" hint="Colours, type, buttons, links and spaces come from it.">
        <Choose
          value={chosen ?? "last"}
          onChange={(next) => onChange(next === "last" ? undefined : next)}
          options={[
            { value: "last", label: "That of the last one" },
            ...themes.map(({ id: value, name }) => ({ value, label: name })),
          ]}
        />
      </Labelled>
      {theme && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <Specimen theme={theme} scheme="light" />
            <Specimen theme={theme} scheme="dark" />
          </div>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 text-xs">
            {facts(theme).map(([label, value]) => (
              <div key={label} className="contents">
                <dt className="text-ink-soft">{label}</dt>
                <dd>{value}</dd>
              </div>
            ))}
          </dl>
          {draft && (
            <Link
              to={`/campaigns/${draft}/compose?theme=${encodeURIComponent(theme.id)}`}
              className={buttonLook()}
            >
              <SlidersHorizontal className="size-4" aria-hidden /> Change it, with an email beside
            </Link>
          )}
        </>
      )}
    </section>
  );
}

function facts({ fonts, text, headings, links, button, space, width }: Theme): [string, string][] {
  const family = (stack: string) => stack.split(",")[0].replaceAll("'", "");
  return [
    [
      "Type",
      `${family(fonts.heading)} ${headings.h1.size}, ${headings.h2.size}, ${headings.h3.size} px; ${family(fonts.body)} ${text.size} px`,
    ],
    [
      "Links",
      `${links.underline ? "underlined" : "not underlined"}, weight ${links.weight ?? "of the words"}`,
    ],
    [
      "Buttons",
      `corners ${button.radius} px, ${button.padY} px above and ${button.padX} px beside ${button.size} px words`,
    ],
    [
      "Space",
      `${width} px wide, ${space.inset} px at the sides, sections ${space.section} px, blocks ${space.block} px, columns ${space.gap} px`,
    ],
  ];
}
