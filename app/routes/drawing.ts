import { drawingFile } from "~/server/workspace/drawn";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/drawing";

export async function loader({ params }: Route.LoaderArgs) {
  return fileAnswer("image/png", await drawingFile(params.file), "forever");
}
