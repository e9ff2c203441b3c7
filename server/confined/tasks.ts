import { FeedError, parseFeed } from "~/core/sources";
import { takeFile, takeWriting } from "../intake/taking";
import { developPicture, inspectPicture } from "../pictures/develop";
import { outlineWords } from "../pictures/outline";
import { Refusal } from "../septima";

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
  inspect: inspectPicture,
  develop: developPicture,
  outline: outlineWords,
};

export type Tasks = typeof tasks;
