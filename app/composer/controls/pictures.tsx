import { createBlock } from "~/core/blocks";
import { commands } from "~/core/compose";
import { type Block, findNode } from "~/core/email";
import { ChoosePicture } from "../../pictures/choose-picture";
import type { PictureFacts } from "../../pictures/facts";
import { uploadPicture } from "../../pictures/upload";
import { Progress } from "../../ui/progress";
import { counted } from "../../ui/time";
import type { Actions } from "../state/actions";
import { type Composer, newId, useComposer, useComposerStore } from "../state/store";

/** Keeps what is known of pictures that came into the design. */
export function knowPictures(store: Composer, fresh: readonly PictureFacts[]): void {
  store.setState(({ pictures }) => ({
    pictures: [...fresh, ...pictures.filter(({ path }) => fresh.every((one) => one.path !== path))],
  }));
}

/**
 * What a picture sets in a block, or in one of its pictures. What another showed is not what this one shows: only words
 * that were there before any picture was stay.
 */
export function partsOf(
  picture: PictureFacts,
  before: object,
): { src: string; natural: { width: number; height: number }; alt?: string; focus?: PictureFacts["focus"] } {
  const { src, alt } = before as { src?: string; alt?: string };
  const words = src === "" || src === picture.path ? alt : "";
  return {
    src: picture.path,
    natural: { width: picture.width, height: picture.height },
    ...("alt" in before && { alt: words || picture.alt }),
    ...("veil" in before && { focus: picture.focus }),
  };
}

/** Puts a picture where one is missing: `path` leads to the picture in the block, empty for the block's own. */
function setPicture(store: Composer, id: string, path: string, picture: PictureFacts): void {
  const { email, apply } = store.getState();
  const found = findNode(email, id);
  if (found?.kind !== "block") return;
  if (path === "") {
    apply(commands.set(id, partsOf(picture, found.node)), "Choosing a picture");
    return;
  }
  const [key, item] = path.split("/");
  const pictures = (found.node[key] as { id: string; alt?: string }[]).map((one) =>
    one.id === item ? { ...one, ...partsOf(picture, one) } : one,
  );
  apply(commands.set(id, { [key]: pictures }), "Choosing a picture");
}

/** Whether a block shows one picture of its own. */
const showsPicture = (block: Block | undefined): block is Block => block !== undefined && "src" in block;

/**
 * Takes pictures in and places them: in the block they were dropped on when it shows a picture, else as a block of
 * their own after the selection; several become an image set.
 */
export async function placePictures(
  store: Composer,
  actions: Actions,
  files: readonly File[],
  onto: string | null,
  complain: (text: string) => void,
): Promise<void> {
  const shares = files.map(() => 0);
  const tell = () =>
    store.setState({
      uploading: { count: files.length, share: shares.reduce((sum, one) => sum + one, 0) / files.length },
    });
  tell();
  const results = await Promise.allSettled(
    files.map((file, index) =>
      uploadPicture(file, (share) => {
        shares[index] = share;
        tell();
      }),
    ),
  );
  store.setState({ uploading: null });
  const pictures = results.flatMap((result) => (result.status === "fulfilled" ? [result.value] : []));
  for (const [index, result] of results.entries())
    if (result.status === "rejected") complain(`${files[index].name}: ${(result.reason as Error).message}`);
  if (pictures.length === 0) return;
  knowPictures(store, pictures);
  const found = onto === null ? undefined : findNode(store.getState().email, onto);
  const block = found?.kind === "block" ? found.node : undefined;
  const [first] = pictures;
  if (pictures.length === 1 && showsPicture(block)) {
    setPicture(store, block.id, "", first);
    store.getState().select(block.id);
    return;
  }
  if (block) store.getState().select(block.id);
  const fresh =
    pictures.length === 1
      ? { ...createBlock("image", newId()), ...partsOf(first, { src: "", alt: "" }) }
      : {
          ...createBlock("imageSet", newId()),
          pictures: pictures.slice(0, 12).map((picture) => ({
            id: newId(),
            decorative: false,
            ...partsOf(picture, { src: "", alt: "" }),
          })),
        };
  actions.addBlocks([fresh as Block], "Adding pictures");
}

/** The choice of a picture for a place on the canvas that was pressed. */
export function PictureDialog() {
  const store = useComposerStore();
  const choosing = useComposer((state) => state.choosing);
  return (
    <ChoosePicture
      open={choosing !== null}
      onClose={() => store.getState().set({ choosing: null })}
      onChoose={(picture) => {
        knowPictures(store, [picture]);
        if (choosing) setPicture(store, choosing.id, choosing.path, picture);
      }}
    />
  );
}

/** How far pictures are that were dropped or pasted. */
export function UploadProgress() {
  const uploading = useComposer((state) => state.uploading);
  if (!uploading) return null;
  return (
    <div
      role="status"
      className="fixed bottom-14 left-1/2 z-40 w-72 -translate-x-1/2 space-y-1.5 rounded-lg border bg-paper px-4 py-3 shadow-xl"
    >
      <p>Taking in {counted(uploading.count, "picture")}…</p>
      <Progress share={uploading.share} label="Taken in so far" />
    </div>
  );
}
