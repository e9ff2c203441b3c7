/** One thing that was done and can be undone. */
export interface Done {
  /** Deeds with the same key that follow each other closely become one, as with typing. */
  merge?: string;
  /** When it was done, in milliseconds. */
  at: number;
}

/** What was done and can be undone and redone, without limit. Values, not a class: kept in a store. */
export interface Past<D extends Done> {
  done: readonly D[];
  undone: readonly D[];
}

const MERGE_WITHIN = 1500;

/** The way back and forth through whatever is changed: a design by its steps, a theme or a picture's steps as wholes. */
export const Past = {
  empty: { done: [], undone: [] } as Past<never>,

  /**
   * Adds a deed. What was undone cannot be redone any more.
   * @param join makes one deed of two that belong together
   * @param within so closely they follow each other then, in milliseconds
   */
  add<D extends Done>(
    { done, undone }: Past<D>,
    deed: D,
    join: (first: D, second: D) => D,
    within = MERGE_WITHIN,
  ): Past<D> {
    const last = done.at(-1);
    const together =
      last?.merge !== undefined &&
      last.merge === deed.merge &&
      undone.length === 0 &&
      deed.at - last.at < within;
    return { done: together ? [...done.slice(0, -1), join(last, deed)] : [...done, deed], undone: [] };
  },

  /** Nothing more belongs to the last deed. */
  rest<D extends Done>({ done, undone }: Past<D>): Past<D> {
    const last = done.at(-1);
    return last?.merge === undefined
      ? { done, undone }
      : { done: [...done.slice(0, -1), { ...last, merge: undefined }], undone };
  },

  /** The last deed, to be taken back; null when there is none. */
  back<D extends Done>({ done, undone }: Past<D>): { deed: D; past: Past<D> } | null {
    const deed = done.at(-1);
    return deed ? { deed, past: { done: done.slice(0, -1), undone: [...undone, deed] } } : null;
  },

  /** The deed that was taken back last, to be done again; null when there is none. */
  forth<D extends Done>({ done, undone }: Past<D>): { deed: D; past: Past<D> } | null {
    const deed = undone.at(-1);
    return deed ? { deed, past: { done: [...done, deed], undone: undone.slice(0, -1) } } : null;
  },
};

/** A deed that put one value in the place of another. */
export interface Swap<T> extends Done {
  before: T;
  after: T;
}

/** Two such deeds as one. */
export const joinSwaps = <T>(first: Swap<T>, second: Swap<T>): Swap<T> => ({
  ...second,
  before: first.before,
});
