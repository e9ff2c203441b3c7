import { clockFile } from "~/server/workspace/drawn";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/clock";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { septima } = context;
  return fileAnswer("image/png", await clockFile(params.file, septima.now()), "never");
}
