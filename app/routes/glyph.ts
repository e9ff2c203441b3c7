import { glyphFile } from "~/server/workspace/drawn";
import { fileAnswer } from "../file-answer";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/glyph";

export async function loader({ params }: Route.LoaderArgs) {
  return fileAnswer("image/png", await orNotHere(() => glyphFile(params.file)), "forever");
}
