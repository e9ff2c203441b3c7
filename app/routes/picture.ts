import { pictureFile } from "~/server/workspace/pictures";
import { fileAnswer } from "../file-answer";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/picture";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { type, data } = await orNotHere(() => pictureFile(context.septima, params.picture));
  return fileAnswer(type, data, "forever");
}
