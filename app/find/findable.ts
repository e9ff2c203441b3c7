/** Something that can be found and then happens. */
export interface Findable {
  id: string;
  label: string;
  /** Other words it is found under, and words shown beside it. */
  words?: string;
  aside?: string;
  run(): void;
}

export interface FindGroup {
  title: string;
  items: readonly Findable[];
}
