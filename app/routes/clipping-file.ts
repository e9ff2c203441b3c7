import { clippingFile } from "~/server/campaigns/clippings";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/clipping-file";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { name, json } = await clippingFile(context.septima, params.clipping);
  return fileAnswer("application/json", json, name);
}
