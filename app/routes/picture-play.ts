import { playFile } from "~/server/workspace/drawn";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/picture-play";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { type, data } = await playFile(context.septima, params.picture);
  return fileAnswer(type, data, "forever");
}
