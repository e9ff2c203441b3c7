import { pictureFile } from "~/server/pictures/files";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/picture";

/** A file of the library; with `width` a variant of it. */
export async function loader({ context, params }: Route.LoaderArgs) {
  const { picture, width } = params;
  const { type, data } = await pictureFile(
    context.septima,
    picture,
    width === undefined ? undefined : Number(width),
  );
  return fileAnswer(type, data, "forever");
}
