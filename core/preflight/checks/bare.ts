/** Editions in which nothing stands between header and footer. */
import type { Check } from "../check";

export const bareCheck: Check = {
  name: "bare",
  group: "readers",
  label: "something to read for everybody",
  why: "They get a message that says nothing, and remember it.",
  edition: ({ bare }) =>
    bare
      ? [
          {
            weight: "look",
            text: "Some get nothing between header and footer. Leave them out under Readers, or give them something.",
          },
        ]
      : [],
};
