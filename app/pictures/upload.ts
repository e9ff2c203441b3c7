import type { Picture } from "~/server/pictures/library";
import type { TakenPicture } from "~/server/pictures/taking";
import { type Answer, resultOf, tell } from "../requests";

export type { Picture, TakenPicture };

const AWAY = "The picture did not reach the server. Try again when the connection is back.";

/** Sends a picture to the workspace. `onShare` hears how much of it has gone, from 0 to 1. */
export function uploadPicture(
  file: File,
  onShare: (share: number) => void = () => undefined,
  folder = "",
): Promise<TakenPicture> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open(
      "POST",
      `/library/take?${new URLSearchParams({ name: file.name || "Pasted picture", folder })}`,
    );
    request.setRequestHeader("content-type", "application/octet-stream");
    request.upload.onprogress = (event) => event.lengthComputable && onShare(event.loaded / event.total);
    const away = () => reject(new Error(AWAY));
    request.onerror = away;
    request.onload = () => {
      try {
        const { result, problem } = JSON.parse(request.responseText) as Answer<TakenPicture>;
        if (result) resolve(result);
        else reject(new Error(problem ?? "The picture was not taken."));
      } catch {
        if (request.status === 413) reject(new Error(request.responseText));
        else away();
      }
    };
    request.send(file);
  });
}

/** Takes over a picture from an address. @throws Error with a sentence for people */
export async function takeFromAddress(address: string): Promise<TakenPicture> {
  const whole = /^[a-z][a-z0-9+.-]*:/i.test(address) ? address : `https://${address}`;
  return resultOf(await tell("/library/take/from", { address: whole.trim() }));
}

/** The pictures among files, by what browsers take them for and by their names; null when there are none. */
export function picturesAmong(files: Iterable<File>): File[] | null {
  const pictures = [...files].filter(
    (file) => file.type.startsWith("image/") || /\.(jpe?g|png|gif|webp|avif|svg|hei[cf])$/i.test(file.name),
  );
  return pictures.length > 0 ? pictures : null;
}
