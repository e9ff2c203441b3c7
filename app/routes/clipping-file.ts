import { clippingFile } from "~/server/campaigns/clippings";
import { fileAnswer } from "../file-answer";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/clipping-file";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { name, json } = await orNotHere(() => clippingFile(context.septima, params.clipping));
  return fileAnswer("application/json", json, "never", name);
}
