import type { PictureFacts } from "./store";

/** Sends a picture to the workspace. `onShare` hears how much of it has gone, from 0 to 1. */
export function uploadPicture(file: File, onShare: (share: number) => void): Promise<PictureFacts> {
  return new Promise((resolve, reject) => {
    const body = new FormData();
    body.append("picture", file);
    const request = new XMLHttpRequest();
    request.open("POST", "/pictures");
    request.upload.onprogress = (event) => event.lengthComputable && onShare(event.loaded / event.total);
    const away = () =>
      reject(new Error("The picture did not reach the server. Try again when the connection is back."));
    request.onerror = away;
    request.onload = () => {
      try {
        const answer = JSON.parse(request.responseText) as {
          result: PictureFacts | null;
          problem: string | null;
        };
        if (answer.result) resolve(answer.result);
        else reject(new Error(answer.problem ?? "The picture was not taken."));
      } catch {
        away();
      }
    };
    request.send(body);
  });
}
