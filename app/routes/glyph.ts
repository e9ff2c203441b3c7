import { glyphFile } from "~/server/workspace/drawn";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/glyph";

export async function loader({ params }: Route.LoaderArgs) {
  return fileAnswer("image/png", await glyphFile(params.file), "forever");
}
