import type { Brand } from "~/core/email";
import type { Picture } from "~/server/workspace/pictures";
import { Choose } from "../ui/choose";
import { Labelled } from "../ui/form";

const LOGOS = [
  {
    key: "logo",
    label: "Logo",
    hint: "Logo blocks show it; without one they write the name.",
    ground: "#FFFFFF",
  },
  {
    key: "logoDark",
    label: "For dark grounds",
    hint: "Shown on dark themes, and in dark mode where mail programs know how.",
    ground: "#1E1B24",
  },
  {
    key: "logoSmall",
    label: "Small",
    hint: "Shown up to 64 px wide, such as a mark without words.",
    ground: "#FFFFFF",
  },
] as const;

/** The logo as it is used in different places. */
export function Logos({
  brand,
  pictures,
  onChange,
}: {
  brand: Brand;
  pictures: readonly Picture[];
  onChange(part: Partial<Brand>): void;
}) {
  return (
    <section className="card space-y-4 p-5" aria-label="Logos">
      <h2 className="text-[15px] font-semibold">Logos</h2>
      {LOGOS.map(({ key, label, hint, ground }) => (
        <Labelled key={key} label={label} hint={hint}>
          {(id) => (
            <div className="flex items-center gap-3">
              <span
                className="grid h-12 w-20 shrink-0 place-items-center overflow-hidden rounded-md border"
                style={{ background: ground }}
              >
                {brand[key] && (
                  <img src={brand[key].src} alt="" className="max-h-10 max-w-18 object-contain" />
                )}
              </span>
              <Choose
                id={id}
                label={label}
                value={brand[key]?.src ?? "none"}
                onChange={(path) => {
                  const picture = pictures.find((one) => one.path === path);
                  onChange({
                    [key]: picture && { src: picture.path, width: picture.width, height: picture.height },
                  });
                }}
                options={[
                  { value: "none", label: "None" },
                  ...pictures.map((picture) => ({ value: picture.path, label: picture.name })),
                ]}
              />
            </div>
          )}
        </Labelled>
      ))}
    </section>
  );
}
