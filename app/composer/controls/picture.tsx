import { Pencil } from "lucide-react";
import { useMemo, useState } from "react";
import { neighbourWords, replacePicture } from "~/core/compose";
import { resolveTheme, typedTag } from "~/core/email";
import type { PictureParts } from "~/core/markup";
import { typedSaid } from "~/core/personal";
import { draftAlts } from "~/core/pictures";
import { enlargedPictures } from "~/core/render";
import { ChoosePicture } from "../../pictures/choose-picture";
import { PictureEditor } from "../../pictures/editor/picture-editor";
import type { PictureFacts } from "../../pictures/facts";
import { isPictureTag, readerData, tagOf } from "../../readers/reader-data";
import { Button } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { Line } from "../../ui/form";
import { Switch } from "../../ui/switch";
import { kilobytes } from "../../ui/time";
import { TypedInput } from "../../ui/typed-field";
import { useComposer, useComposerStore } from "../state/store";
import { around } from "../state/values";
import { HrefLine } from "./href";
import { knowPictures, partsOf } from "./pictures";

/** A picture: which, what it says to those who do not see it, and where it leads. */
export function PictureFields({
  picture,
  onChange,
  leads = true,
  said = true,
  decorates = true,
  asked = true,
}: {
  picture: Partial<PictureParts> & { src: string };
  onChange(parts: Partial<PictureParts>, label: string): void;
  leads?: boolean;
  said?: boolean;
  decorates?: boolean;
  asked?: boolean;
}) {
  const [choosing, setChoosing] = useState(false);
  const [editing, setEditing] = useState(false);
  const store = useComposerStore();
  const pictures = useComposer((state) => state.pictures);
  const data = useComposer((state) => state.facts);
  const reader = useComposer((state) => state.reader);
  const email = useComposer((state) => state.email);
  const { campaign } = data;
  const facts = pictures.find((one) => one.path === picture.src);
  const { src, alt = "", decorative = false, href = "" } = picture;
  // Of a lookup, the picture this reader gets.
  const shown = typedSaid(src, reader, around({ email, facts: data, reader }));
  const differing = readerData(data).filter(({ key }) => isPictureTag(key, data.tags));
  const choose = (chosen: PictureFacts) => {
    knowPictures(store, [chosen]);
    onChange(partsOf(chosen, picture), "Choosing a picture");
  };
  return (
    <>
      {shown !== "" && (
        <img src={shown} alt="" className="max-h-32 w-full rounded-md border object-contain" />
      )}
      <div className="flex gap-2">
        <Button className="grow" onClick={() => setChoosing(true)}>
          {src === "" ? "Choose a picture" : "Choose another"}
        </Button>
        {facts && (
          <Button onClick={() => setEditing(true)}>
            <Pencil className="size-4" aria-hidden /> Edit it
          </Button>
        )}
      </div>
      {differing.length > 0 && (
        <Line label="Or by">
          <Choose
            label="Picture by a lookup"
            placeholder="the same for everybody"
            value={src.startsWith("{$") ? src : ""}
            options={differing.map((datum) => ({ value: typedTag(tagOf(datum)), label: datum.label }))}
            onChange={(next) => onChange({ src: next, natural: undefined }, "Choosing a picture by a lookup")}
          />
        </Line>
      )}
      {facts && (
        <p className="text-xs text-ink-soft">
          {facts.width} × {facts.height} px, {kilobytes(facts.bytes)} at most
        </p>
      )}
      {src !== "" && <TooSmall src={src} />}
      {said && (
        <>
          <Line label="Alt text">
            <TypedInput
              data={data}
              disabled={decorative}
              value={alt}
              placeholder="what it shows"
              onChange={(next) => onChange({ alt: next }, "Describing the picture")}
            />
          </Line>
          {asked && !decorative && alt.trim() === "" && src !== "" && (
            <AltAsked
              name={facts?.name ?? src}
              onTake={(draft) => onChange({ alt: draft }, "Describing the picture")}
            />
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
      <ChoosePicture open={choosing} onClose={() => setChoosing(false)} onChoose={choose} />
      {editing && facts && (
        <PictureEditor
          id={facts.id}
          campaign={campaign}
          onClose={() => setEditing(false)}
          onSaved={(saved) => {
            setEditing(false);
            knowPictures(store, [saved]);
            const fresh = { src: saved.path, width: saved.width, height: saved.height };
            if (saved.before)
              store.getState().apply(replacePicture(new Set(saved.before), fresh), "Changing a picture");
            else
              onChange(
                { src: saved.path, natural: { width: saved.width, height: saved.height } },
                "Choosing a picture",
              );
            if (said && saved.alt !== alt && (alt === "" || alt === facts.alt))
              onChange({ alt: saved.alt }, "Describing the picture");
          }}
        />
      )}
    </>
  );
}

/** Says so where a picture is shown larger than it is. */
function TooSmall({ src }: { src: string }) {
  const email = useComposer((state) => state.resting);
  const selection = useComposer((state) => state.selection);
  const facts = useComposer((state) => state.facts);
  const found = useMemo(() => {
    if (selection === null) return undefined;
    const options = {
      ...facts.tags,
      theme: resolveTheme(email.theme, facts.themes),
      brand: facts.brand,
      origin: "",
    };
    return enlargedPictures(email, options, selection).find((one) => one.src === src);
  }, [email, selection, facts, src]);
  if (!found) return null;
  return (
    <p role="status" className="rounded-md bg-amber-wash px-3 py-2 text-amber">
      It is {found.own} px wide and shown at {found.shown}: it looks blurred. Choose a larger one, or show it
      smaller.
    </p>
  );
}

/** What a picture shows is asked for while it is being placed; drafts are offered, and a person decides. */
function AltAsked({ name, onTake }: { name: string; onTake(draft: string): void }) {
  const email = useComposer((state) => state.resting);
  const selection = useComposer((state) => state.selection);
  const near = selection === null ? [] : neighbourWords(email, selection);
  const drafts = draftAlts(name, near);
  return (
    <div className="space-y-1.5 rounded-md bg-amber-wash px-3 py-2 text-amber" role="status">
      <p>What does it show? Many readers see no pictures.</p>
      {drafts.map((draft) => (
        <button
          key={draft}
          type="button"
          className="block max-w-full truncate text-left underline underline-offset-2"
          onClick={() => onTake(draft)}
        >
          “{draft}”
        </button>
      ))}
    </div>
  );
}
