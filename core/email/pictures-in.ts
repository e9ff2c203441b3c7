import { isRichDoc } from "./rich";

type Json = Record<string, unknown>;

/** What holds no picture that is shown. */
const NO_PICTURES = new Set(["translations", "show", "ownText", "natural", "raw"]);

/**
 * The pictures of a block: what holds an address of one, at any depth, with the path that leads there; lists are entered
 * by the ids of their items.
 */
export function* picturesIn(at: unknown, path = ""): Generator<{ path: string; picture: Json }> {
  if (typeof at !== "object" || at === null || isRichDoc(at)) return;
  if (Array.isArray(at)) {
    for (const item of at) if (typeof item?.id === "string") yield* picturesIn(item, `${path}${item.id}/`);
    return;
  }
  const picture = at as Json;
  if (typeof picture.src === "string") yield { path, picture };
  for (const [key, value] of Object.entries(picture))
    if (!NO_PICTURES.has(key)) yield* picturesIn(value, `${path}${key}/`);
}
