import { type Letter, readAnswers, readDraft, type ToldField } from "~/core/assistant";
import { FeedError, parseFeed } from "~/core/sources";
import { usable } from "../assistant/usable";
import { readCards } from "../audience/cards";
import { newId } from "../intake/taken";
import { takeFile, takeWriting } from "../intake/taking";
import { developPicture, inspectPicture } from "../pictures/develop";
import { outlineWords } from "../pictures/outline";
import { Refusal } from "../refusal";

/** What is done confined: reading what strangers wrote. Arguments and results pass between two processes. */
export const tasks = {
  /** A feed as it came over the wire, and the address it came from. */
  feed(document: Uint8Array, address: string) {
    try {
      return parseFeed(Buffer.from(document).toString("utf8"), address);
    } catch (error) {
      throw error instanceof FeedError ? new Refusal(error.message) : error;
    }
  },
  file: takeFile,
  writing: takeWriting,
  /** What a writing assistant sent to a question about this letter. */
  answers: (said: unknown, letter: Letter, fields: ToldField[]) =>
    usable(() => readAnswers(said, letter, fields, newId)),
  /** What a writing assistant sent as a first draft. */
  draft: (said: unknown, fields: ToldField[]) => usable(() => readDraft(said, fields, newId)),
  cards: readCards,
  inspect: inspectPicture,
  develop: developPicture,
  outline: outlineWords,
};

export type Tasks = typeof tasks;
