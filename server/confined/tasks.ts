import { type Letter, readAnswers, readDraft, type ToldField } from "~/core/assistant";
import { usable } from "../assistant/usable";
import { readCards } from "../audience/cards";
import { newId } from "../intake/taken";
import { takeFile, takeWriting } from "../intake/taking";
import { developPicture, inspectPicture } from "../pictures/develop";
import { outlineWords } from "../pictures/outline";
import { shapePicture } from "../pictures/shape";
import { rehearseStretch } from "../rehearsal/stretch";
import { readDocument } from "../sources/reading";

/** What is done confined: reading what strangers wrote, and what takes long. Arguments and results pass between two processes. */
export const tasks = {
  document: readDocument,
  file: takeFile,
  writing: takeWriting,
  /** What a writing assistant sent to a question about this letter. */
  answers: (said: unknown, letter: Letter, fields: ToldField[]) =>
    usable(() => readAnswers(said, letter, fields, newId)),
  /** What a writing assistant sent as a first draft. */
  draft: (said: unknown, fields: ToldField[]) => usable(() => readDraft(said, fields, newId)),
  cards: readCards,
  rehearse: rehearseStretch,
  inspect: inspectPicture,
  develop: developPicture,
  shape: shapePicture,
  outline: outlineWords,
};

export type Tasks = typeof tasks;
