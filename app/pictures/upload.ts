import type { Picture } from "~/server/pictures/library";
import type { TakenPicture } from "~/server/pictures/taking";

export type { Picture, TakenPicture };

interface Answer<T> {
  result: T | null;
  problem: string | null;
}

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

/** Asks something of the library in JSON. @throws Error with a sentence for people */
export async function askLibrary<T>(address: string, body: unknown): Promise<T> {
  let answer: Answer<T>;
  try {
    const response = await fetch(address, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
    });
    const text = await response.text();
    if (response.headers.get("content-type")?.includes("json")) answer = JSON.parse(text) as Answer<T>;
    else throw new Error(response.status === 400 ? text : "The server could not do it. Try again.");
  } catch (error) {
    throw error instanceof TypeError
      ? new Error("The server does not answer. Nothing was changed.")
      : (error as Error);
  }
  if (answer.problem !== null) throw new Error(answer.problem);
  return answer.result as T;
}

/** Takes over a picture from an address. */
export function takeFromAddress(address: string): Promise<TakenPicture> {
  const whole = /^[a-z][a-z0-9+.-]*:/i.test(address) ? address : `https://${address}`;
  return askLibrary("/library/take", { address: whole.trim() });
}

/** The pictures among files, by what browsers take them for and by their names; null when there are none. */
export function picturesAmong(files: Iterable<File>): File[] | null {
  const pictures = [...files].filter(
    (file) => file.type.startsWith("image/") || /\.(jpe?g|png|gif|webp|avif|svg|hei[cf])$/i.test(file.name),
  );
  return pictures.length > 0 ? pictures : null;
}
