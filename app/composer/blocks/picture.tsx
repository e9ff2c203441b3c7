import { Upload } from "lucide-react";
import { useRef, useState } from "react";
import type { PictureParts } from "~/core/markup";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Input, Line, Problem } from "../../ui/form";
import { Progress } from "../../ui/progress";
import { RemoveButton } from "../../ui/remove-button";
import { Switch } from "../../ui/switch";
import { kilobytes } from "../../ui/time";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { type PictureFacts, useComposer } from "../store";
import { uploadPicture } from "../upload";
import { HrefLine } from "./href";

/** The picture of a block: which, what it says to those who do not see it, and where it leads. */
export function PicturePart({
  block,
  title = "Picture",
  leads = true,
  said = true,
  decorates = true,
}: {
  block: Partial<PictureParts> & { id: string; src: string };
  title?: string;
  /** Whether it can be a link, and whether it has words of its own. */
  leads?: boolean;
  said?: boolean;
  /** Whether it may be there for its looks only. */
  decorates?: boolean;
}) {
  const set = useSet(block.id);
  return (
    <Part title={title}>
      <PictureFields picture={block} onChange={set} leads={leads} said={said} decorates={decorates} />
    </Part>
  );
}

/** The same for a picture that is one of several. */
export function PictureFields({
  picture,
  onChange,
  leads = true,
  said = true,
  decorates = true,
}: {
  picture: Partial<PictureParts> & { src: string };
  onChange(parts: Partial<PictureParts>, label: string): void;
  leads?: boolean;
  said?: boolean;
  decorates?: boolean;
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
          {decorates && (
            <Switch
              checked={decorative}
              onChange={(on) => onChange({ decorative: on }, "Marking as decoration")}
            >
              Only decoration
            </Switch>
          )}
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
  const [share, setShare] = useState<number | null>(null);
  const upload = async (file: File | undefined) => {
    if (!file) return;
    setShare(0);
    setProblem(null);
    try {
      const picture = await uploadPicture(file, setShare);
      set({ pictures: [picture, ...pictures] });
      onChoose(picture);
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setShare(null);
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
        <Button onClick={() => input.current?.click()} disabled={share !== null}>
          <Upload className="size-4" aria-hidden /> Upload
        </Button>
        {share === null ? (
          <span className="text-ink-soft">or drop a file here; it is resized for email</span>
        ) : (
          <div className="flex grow items-center gap-3" role="status">
            <span className="text-ink-soft">Taking it in…</span>
            <Progress share={share < 1 ? share : null} label="Taken in so far" />
          </div>
        )}
      </div>
      {problem && (
        <div className="mb-3">
          <Problem>{problem}</Problem>
        </div>
      )}
      <div className="grid grid-cols-4 gap-3">
        {pictures.map((picture) => (
          <div key={picture.id} className="relative">
            <button
              type="button"
              onClick={() => onChoose(picture)}
              className="w-full rounded-md border p-1.5 text-left hover:border-mulberry"
            >
              <img
                src={picture.path}
                alt={picture.alt}
                className="h-24 w-full rounded-sm bg-table object-contain"
              />
              <span className="mt-1 block truncate">{picture.name}</span>
            </button>
            <RemoveButton
              kind="picture"
              id={picture.id}
              name={picture.name}
              className="absolute! top-2.5 right-2.5 size-7! bg-paper/90"
              consequence="It stays where it is used; it is only no longer offered here."
              onChange={(removed) =>
                set({
                  pictures: removed
                    ? pictures.filter(({ id }) => id !== picture.id)
                    : [picture, ...pictures.filter(({ id }) => id !== picture.id)],
                })
              }
            />
          </div>
        ))}
      </div>
      {pictures.length === 0 && <p className="text-ink-soft">No pictures yet. Upload the first one.</p>}
    </div>
  );
}
