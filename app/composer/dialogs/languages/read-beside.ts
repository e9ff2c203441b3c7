import type { Email } from "~/core/email";
import { type FromTranslators, XliffError } from "~/core/translation";
import type { Answered, Asked } from "./reading";

/** So long a file may take to be read, in milliseconds. */
const LONGEST = 10_000;

/**
 * Reads a file from translators beside the page, which goes on meanwhile.
 * @throws XliffError that says what is wrong with it, or that it takes too long
 */
export function readBeside(text: string, email: Email): Promise<FromTranslators> {
  const worker = new Worker(new URL("./reading.ts", import.meta.url), { type: "module" });
  return new Promise<FromTranslators>((resolve, reject) => {
    const timer = setTimeout(
      () =>
        reject(
          new XliffError(
            `The file takes longer than ${LONGEST / 1000} seconds to read, so it was given up. Nothing was changed.`,
          ),
        ),
      LONGEST,
    );
    worker.onmessage = ({ data }: MessageEvent<Answered>) => {
      clearTimeout(timer);
      if ("read" in data) resolve(data.read);
      else
        reject(
          new XliffError(
            "problem" in data
              ? data.problem
              : `The file could not be read (${data.failed}). Nothing was changed.`,
          ),
        );
    };
    worker.onerror = () => {
      clearTimeout(timer);
      reject(new XliffError("The file could not be read. Nothing was changed."));
    };
    worker.postMessage({ text, email } satisfies Asked);
  }).finally(() => worker.terminate());
}
