/** Runs beside the page: reads a file from translators, however long that takes. */

import type { Email } from "~/core/email";
import { type FromTranslators, readXliff, XliffError } from "~/core/translation";

export type Asked = { text: string; email: Email };
export type Answered = { read: FromTranslators } | { problem: string } | { failed: string };

self.onmessage = ({ data: { text, email } }: MessageEvent<Asked>) => {
  let answer: Answered;
  try {
    answer = { read: readXliff(text, email) };
  } catch (error) {
    const { message } = error as Error;
    answer = error instanceof XliffError ? { problem: message } : { failed: message };
  }
  self.postMessage(answer);
};
