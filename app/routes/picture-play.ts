import { playFile } from "~/server/workspace/drawn";
import { fileAnswer } from "../file-answer";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/picture-play";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { type, data } = await orNotHere(() => playFile(context.septima, params.picture));
  return fileAnswer(type, data, "forever");
}
