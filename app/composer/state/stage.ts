/** What deeds ask of the table on which the email stands. */
export interface Stage {
  /** Whether the reader gets a part, so that it stands there. */
  shows(id: string): boolean;
  /** The paths of all words of a block that can be written in, in reading order. */
  wordsOf(id: string): readonly string[];
  /** Brings a part into view. */
  reveal(id: string): void;
  focus(): void;
}
