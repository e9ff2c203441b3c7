import { useDeferredValue, useState } from "react";
import { tell } from "../requests";
import { Choose } from "../ui/choose";
import { Dialog } from "../ui/dialog";
import { FileButton } from "../ui/file-button";
import { Problem, SearchInput } from "../ui/form";
import { PictureGrid } from "./picture-grid";
import type { Picture } from "./upload";
import { type Sought, usePictureList } from "./use-picture-list";
import { UploadList, useUploads } from "./use-uploads";

const WHERE = "where";

export interface Choosing {
  onClose(): void;
  onChoose(picture: Picture): void;
}

/** Asks which picture. One that is added is chosen. */
export default function Chooser({ onClose, onChoose }: Choosing) {
  return (
    <Dialog open onClose={onClose} title="Choose a picture" wide>
      <Library
        onChoose={(picture) => {
          onChoose(picture);
          onClose();
        }}
      />
    </Dialog>
  );
}

/** The library, to choose a picture from or to add one to. */
function Library({ onChoose }: Pick<Choosing, "onChoose">) {
  const [words, setWords] = useState("");
  const [where, setWhere] = useState("all");
  const place: Sought = where.startsWith("folder ")
    ? { folder: where.slice(7) }
    : where.startsWith("label ")
      ? { label: where.slice(6) }
      : { which: where === "recent" ? "recent" : "all" };
  const list = usePictureList(useDeferredValue({ words, ...place }));
  const { uploads, addFiles, addAddress, clear } = useUploads(onChoose);
  const choose = (picture: Picture | undefined) => {
    if (!picture) return;
    void tell("/library/list", { intent: "chosen", id: picture.id });
    onChoose(picture);
  };
  const going = uploads.filter((one) => !one.picture);
  return (
    <div
      role="group"
      aria-label="Pictures"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        addFiles([...event.dataTransfer.files].slice(0, 1));
      }}
    >
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <SearchInput
          className="min-w-40 grow"
          aria-label="Search pictures, or give an address"
          placeholder="Name, label, what it shows, or an address"
          value={words}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || !/^https?:\/\/\S+$/.test(words.trim())) return;
            event.preventDefault();
            addAddress(words.trim());
          }}
        />
        <div className="w-44">
          <Choose
            label={WHERE}
            value={where}
            options={[
              { value: "all", label: "All pictures" },
              { value: "recent", label: "Used lately" },
              ...(list.filing?.folders ?? []).map(({ name }) => ({
                value: `folder ${name}`,
                label: name,
                aside: "folder",
              })),
              ...(list.filing?.labels ?? []).map(({ name }) => ({
                value: `label ${name}`,
                label: name,
                aside: "label",
              })),
            ]}
            onChange={setWhere}
          />
        </div>
        <FileButton label="Upload" accept="image/*,.heic,.heif" onFile={(file) => addFiles([file])} />
      </div>
      {list.problem && <Problem>{list.problem}</Problem>}
      {list.total === 0 ? (
        <p className="py-8 text-center text-ink-soft">
          {list.filing?.all === 0
            ? "No pictures yet. Upload the first one, or drop it here."
            : /^https?:\/\//.test(words)
              ? "Press Enter to take the picture from this address."
              : "No picture fits."}
        </p>
      ) : (
        <PictureGrid
          label="The library"
          className="h-[min(420px,52vh)]"
          total={list.total ?? 0}
          at={list.at}
          need={list.need}
          chosen={NONE}
          onChoose={(index) => choose(list.at(index))}
        />
      )}
      <UploadList uploads={going} onClear={clear} />
    </div>
  );
}

const NONE: ReadonlySet<string> = new Set();
