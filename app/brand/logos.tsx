import { useState } from "react";
import type { Brand } from "~/core/email";
import type { Picture } from "~/server/pictures/library";
import type { PictureFacts } from "../pictures/facts";
import { uploadPicture } from "../pictures/upload";
import { Choose } from "../ui/choose";
import { FileButton } from "../ui/file-button";
import { Labelled, Problem } from "../ui/form";

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

const asLogo = ({ path, width, height }: { path: string; width: number; height: number }) => ({
  src: path,
  width,
  height,
});

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
  const [fresh, setFresh] = useState<readonly PictureFacts[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const all = [...fresh.filter(({ path }) => pictures.every((one) => one.path !== path)), ...pictures];
  const take = async (key: (typeof LOGOS)[number]["key"], file: File) => {
    setProblem(null);
    try {
      const picture = await uploadPicture(file, () => undefined);
      setFresh((before) => [picture, ...before]);
      onChange({ [key]: asLogo(picture) });
    } catch (error) {
      setProblem(error instanceof Error ? error.message : "The picture was not taken.");
    }
  };
  return (
    <section className="card space-y-4 p-5" aria-label="Logos">
      <h2 className="text-[15px] font-semibold">Logos</h2>
      {problem && <Problem>{problem}</Problem>}
      {LOGOS.map(({ key, label, hint, ground }) => (
        <Labelled key={key} label={label} hint={hint}>
          <div className="flex items-center gap-3">
            <span
              className="grid h-12 w-20 shrink-0 place-items-center overflow-hidden rounded-md border"
              style={{ background: ground }}
            >
              {brand[key] && <img src={brand[key].src} alt="" className="max-h-10 max-w-18 object-contain" />}
            </span>
            <FileButton
              bare
              label={`Upload: ${label}`}
              accept="image/*"
              onFile={(file) => void take(key, file)}
            />
            <Choose
              className="min-w-0"
              label={label}
              value={brand[key]?.src ?? "none"}
              onChange={(path) => {
                const picture = all.find((one) => one.path === path);
                onChange({ [key]: picture && asLogo(picture) });
              }}
              options={[
                { value: "none", label: "None" },
                ...all.map((picture) => ({ value: picture.path, label: picture.name })),
              ]}
            />
          </div>
        </Labelled>
      ))}
    </section>
  );
}
