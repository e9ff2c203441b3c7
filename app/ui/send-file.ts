import type { Answer } from "../refusal";

/**
 * Sends a file as its octets, and says how far it is.
 * @param address where it is taken; its name is added to the question
 * @param onShare hears of how much is there, from 0 to 1
 */
export function sendFile<T>(
  address: string,
  file: File,
  onShare: (share: number) => void,
): Promise<Answer<T>> {
  return new Promise((resolve) => {
    const request = new XMLHttpRequest();
    const failed = (problem: string) => resolve({ problem, result: null });
    request.open("POST", `${address}?${new URLSearchParams({ name: file.name })}`);
    request.setRequestHeader("content-type", "application/octet-stream");
    request.upload.onprogress = ({ loaded, total }) => onShare(total > 0 ? loaded / total : 1);
    request.onerror = () => failed("The server does not answer. Nothing was brought in; try again.");
    request.onload = () => {
      try {
        resolve(JSON.parse(request.responseText) as Answer<T>);
      } catch {
        failed(request.status === 413 ? request.responseText : "The file could not be taken. Try again.");
      }
    };
    request.send(file);
  });
}
