import { problemOf } from "../requests";

/** Has a file made that takes a while, and keeps it as browsers keep files. Gives the sentence of why not, or null. */
export async function takeFile(address: string): Promise<string | null> {
  let answer: Response;
  try {
    answer = await fetch(address);
  } catch {
    return "Septima cannot be reached. Try again when it is back.";
  }
  if (!answer.ok) return problemOf(await answer.text());
  const named = /filename\*=UTF-8''([^;]+)/.exec(answer.headers.get("content-disposition") ?? "")?.[1];
  const href = URL.createObjectURL(await answer.blob());
  const link = document.createElement("a");
  link.href = href;
  link.download = named ? decodeURIComponent(named) : "campaign";
  link.click();
  URL.revokeObjectURL(href);
  return null;
}
