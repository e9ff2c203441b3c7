import { Trash2 } from "lucide-react";
import { useState } from "react";
import { type BrandFont, brandFont, WEB_FONTS } from "~/core/email";
import { fontFaces } from "~/core/markup";
import { give } from "../requests";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { FileButton } from "../ui/file-button";
import { Input, Problem } from "../ui/form";

const KINDS = [
  { value: "sans-serif", label: "Sans" },
  { value: "serif", label: "Serif" },
  { value: "monospace", label: "Typewriter" },
] as const;

/** Fonts of the brand's own, from files or by address; themes can be set in them. */
export function Type({
  fonts,
  onChange,
}: {
  fonts: readonly BrandFont[];
  onChange(fonts: BrandFont[]): void;
}) {
  const [address, setAddress] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const take = async (what: File | string) => {
    const form = new FormData();
    form.set(typeof what === "string" ? "address" : "font", what);
    setBusy(true);
    setProblem(null);
    const { problem: why, result } = await give("/library/fonts", form);
    setBusy(false);
    if (why !== null) return setProblem(why);
    if (fonts.some(({ file, family }) => file === result.file || family === result.family))
      return setProblem(`“${result.family}” is there already.`);
    setAddress("");
    onChange([...fonts, result]);
  };
  return (
    <section className="card space-y-3 p-5" aria-label="Type">
      <style>{fontFaces(fonts.map(brandFont))}</style>
      <h2 className="text-[15px] font-semibold">Type</h2>
      <p className="text-ink-soft">
        Themes can be set in these. Mail programs that fetch no fonts show the next in the stack.
      </p>
      <ul className="divide-y rounded-md border">
        {fonts.map((font, index) => (
          <li key={font.file} className="flex items-center gap-3 px-3 py-2">
            <Sample family={brandFont(font).stack} name={font.family}>
              {weights(font.weights)}, {font.address ? `from ${new URL(font.address).host}` : "kept here"}
            </Sample>
            <Choose
              label={`Kind of ${font.family}`}
              className="w-30!"
              value={font.kind}
              options={KINDS}
              onChange={(kind) => onChange(fonts.map((one, at) => (at === index ? { ...one, kind } : one)))}
            />
            <IconButton
              icon={Trash2}
              label={`Take out ${font.family}`}
              onClick={() => onChange(fonts.filter((_, at) => at !== index))}
            />
          </li>
        ))}
        {WEB_FONTS.map((font) => (
          <li key={font.file} className="px-3 py-2">
            <Sample family={font.stack} name={font.family}>
              {weights(font.weights)}, ships along
            </Sample>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-2">
        <FileButton
          label="Add a font file"
          accept=".woff2,font/woff2"
          disabled={busy}
          onFile={(file) => void take(file)}
        />
        <form
          className="flex grow gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void take(address);
          }}
        >
          <Input
            aria-label="Address of a font"
            placeholder="or its address, https://…/font.woff2"
            value={address}
            onChange={(event) => setAddress(event.target.value)}
          />
          <Button type="submit" disabled={busy || address.trim() === ""}>
            {busy ? "Fetching…" : "Fetch it"}
          </Button>
        </form>
      </div>
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}

function Sample({ family, name, children }: { family: string; name: string; children: React.ReactNode }) {
  return (
    <div className="min-w-0 grow">
      <p className="truncate text-[19px]/7" style={{ fontFamily: family }}>
        {name}: sow, prick out, plant
      </p>
      <p className="text-xs text-ink-soft">{children}</p>
    </div>
  );
}

const weights = ([least, greatest]: readonly [number, number]) =>
  least === greatest ? `weight ${least}` : `weights ${least} to ${greatest}`;
