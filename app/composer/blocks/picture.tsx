import { Upload } from "lucide-react";
import { useRef, useState } from "react";
import type { PictureParts } from "~/core/blocks";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Input, Line, Problem } from "../../ui/form";
import { kilobytes } from "../../ui/time";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { type PictureFacts, useComposer } from "../store";
import { HrefLine } from "./href";

/** The picture of a block: which, what it says to those who do not see it, and where it leads. */
export function PicturePart({
  block,
  title = "Picture",
  leads = true,
  said = true,
}: {
  block: Partial<PictureParts> & { id: string; src: string };
  title?: string;
  /** Whether it can be a link, and whether it has words of its own. */
  leads?: boolean;
  said?: boolean;
}) {
  const set = useSet(block.id);
  return (
    <Part title={title}>
      <PictureFields picture={block} onChange={set} leads={leads} said={said} />
    </Part>
  );
}

/** The same for a picture that is one of several. */
export function PictureFields({
  picture,
  onChange,
  leads = true,
  said = true,
}: {
  picture: Partial<PictureParts> & { src: string };
  onChange(parts: Partial<PictureParts>, label: string): void;
  leads?: boolean;
  said?: boolean;
}) {
  const [choosing, setChoosing] = useState(false);
  const pictures = useComposer((state) => state.pictures);
  const facts = pictures.find((one) => one.path === picture.src);
  const { src, alt = "", decorative = false, href = "" } = picture;
  const choose = (chosen: PictureFacts) => {
    onChange(
      {
        src: chosen.path,
        natural: { width: chosen.width, height: chosen.height },
        ...(said && { alt: alt || chosen.alt }),
      },
      "Choosing a picture",
    );
    setChoosing(false);
  };
  return (
    <>
      {src !== "" && <img src={src} alt="" className="max-h-32 w-full rounded-md border object-contain" />}
      <Button className="w-full" onClick={() => setChoosing(true)}>
        {src === "" ? "Choose a picture" : "Choose another"}
      </Button>
      {facts && (
        <p className="text-xs text-ink-soft">
          {facts.width} × {facts.height} px, {kilobytes(facts.bytes)}
        </p>
      )}
      {said && (
        <>
          <Line label="Alt text">
            {(id) => (
              <Input
                id={id}
                disabled={decorative}
                value={alt}
                placeholder="what it shows"
                onChange={(event) => onChange({ alt: event.target.value }, "Describing the picture")}
              />
            )}
          </Line>
          {!decorative && alt.trim() === "" && src !== "" && (
            <p className="text-xs text-amber" role="status">
              Many readers see no pictures: say what it shows, or mark it as decoration.
            </p>
          )}
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={decorative}
              onChange={(event) => onChange({ decorative: event.target.checked }, "Marking as decoration")}
            />{" "}
            Only decoration
          </label>
        </>
      )}
      {leads && (
        <HrefLine
          href={href}
          empty="nowhere"
          onChange={(next) => onChange({ href: next || undefined }, "Changing the link")}
        />
      )}
      <Dialog open={choosing} onClose={() => setChoosing(false)} title="Choose a picture" wide>
        <PictureChooser onChoose={choose} />
      </Dialog>
    </>
  );
}

/** The pictures of the workspace, to choose one or add one. */
export function PictureChooser({ onChoose }: { onChoose(picture: PictureFacts): void }) {
  const pictures = useComposer((state) => state.pictures);
  const set = useComposer((state) => state.set);
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const upload = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    setProblem(null);
    try {
      const body = new FormData();
      body.append("picture", file);
      const response = await fetch("/pictures", { method: "POST", body });
      const answer = (await response.json()) as { result: PictureFacts | null; problem: string | null };
      if (answer.result) {
        set({ pictures: [answer.result, ...pictures] });
        onChoose(answer.result);
      } else setProblem(answer.problem);
    } catch {
      setProblem("The picture did not reach the server. Try again when the connection is back.");
    } finally {
      setBusy(false);
    }
  };
  return (
    <div
      role="group"
      aria-label="Pictures"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void upload(event.dataTransfer.files[0]);
      }}
    >
      <div className="mb-3 flex items-center gap-3">
        <input
          ref={input}
          type="file"
          accept="image/*"
          className="sr-only"
          aria-label="Picture file"
          tabIndex={-1}
          onChange={(event) => void upload(event.target.files?.[0])}
        />
        <Button onClick={() => input.current?.click()} disabled={busy}>
          <Upload className="size-4" aria-hidden /> {busy ? "Taking it in…" : "Upload"}
        </Button>
        <span className="text-ink-soft">or drop a file here; it is resized for email</span>
      </div>
      {problem && (
        <div className="mb-3">
          <Problem>{problem}</Problem>
        </div>
      )}
      <div className="grid grid-cols-4 gap-3">
        {pictures.map((picture) => (
          <button
            key={picture.id}
            type="button"
            onClick={() => onChoose(picture)}
            className="rounded-md border p-1.5 text-left hover:border-mulberry"
          >
            <img
              src={picture.path}
              alt={picture.alt}
              className="h-24 w-full rounded-sm bg-table object-contain"
            />
            <span className="mt-1 block truncate">{picture.name}</span>
          </button>
        ))}
      </div>
      {pictures.length === 0 && <p className="text-ink-soft">No pictures yet. Upload the first one.</p>}
    </div>
  );
}
