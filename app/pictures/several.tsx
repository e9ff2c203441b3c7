import { Archive, ArchiveRestore, Trash2 } from "lucide-react";
import type { Filing, PictureFiling } from "~/server/pictures/library";
import { resultOf, tell } from "../requests";
import { Button } from "../ui/button";
import { Input, Labelled } from "../ui/form";
import { useNotify } from "../ui/notices";
import { counted, kilobytes } from "../ui/time";
import { FolderChoice, usePutAway } from "./inspector";
import type { Picture } from "./upload";

/** Several pictures at once. */
export function SeveralPictures({
  pictures,
  filing,
  onChanged,
  onNone,
}: {
  pictures: readonly Picture[];
  filing: Filing | null;
  onChanged(): void;
  onNone(): void;
}) {
  const notify = useNotify();
  const ids = pictures.map(({ id }) => id);
  const archived = pictures.every((picture) => picture.archived);
  const putAway = usePutAway(ids, onChanged);
  const bytes = pictures.reduce((sum, picture) => sum + picture.bytes, 0);
  const file = async (filing: PictureFiling, words: string) => {
    const { problem } = await tell("/library/list", { intent: "file", ids, filing });
    notify(problem ? { text: problem, bad: true } : { text: words });
    if (!problem) onChanged();
  };
  const remove = async (removed: boolean) => {
    try {
      for (const id of ids)
        resultOf(await tell("/removals/:kind/:id", { removed }, { at: { kind: "picture", id } }));
      notify(
        removed
          ? {
              text: `${counted(ids.length, "picture")} removed. They stay where they are used.`,
              action: { label: "Undo", run: () => void remove(false) },
            }
          : { text: `${counted(ids.length, "picture")} back.` },
      );
      if (removed) onNone();
    } catch (error) {
      notify({ text: (error as Error).message, bad: true });
    }
    onChanged();
  };
  return (
    <div className="space-y-4">
      <p className="font-semibold">{counted(pictures.length, "picture")} chosen</p>
      <p className="text-ink-soft">{kilobytes(bytes)} in all</p>
      <Labelled label="Folder">
        <FolderChoice
          value={null}
          filing={filing}
          onChange={(folder) =>
            file({ folder }, folder === "" ? "Taken out of their folders." : `Moved to “${folder}”.`)
          }
        />
      </Labelled>
      <Labelled label="One more label">
        <Input
          maxLength={40}
          onKeyDown={(event) => {
            const label = event.currentTarget.value.trim();
            if (event.key !== "Enter" || label === "") return;
            void file({ label }, `Labelled “${label}”.`);
            event.currentTarget.value = "";
          }}
        />
      </Labelled>
      <Button onClick={() => void putAway(!archived).then((done) => done && onNone())}>
        {archived ? (
          <ArchiveRestore className="size-4" aria-hidden />
        ) : (
          <Archive className="size-4" aria-hidden />
        )}
        {archived ? "Bring back" : "Archive"} {counted(pictures.length, "picture")}
      </Button>
      <Button kind="danger" onClick={() => void remove(true)}>
        <Trash2 className="size-4" aria-hidden /> Remove {counted(pictures.length, "picture")}
      </Button>
    </div>
  );
}
