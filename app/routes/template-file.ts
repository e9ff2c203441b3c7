import { templateFile } from "~/server/campaigns/template-files";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/template-file";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { name, json } = await templateFile(context.septima, params.template);
  return fileAnswer("application/json", json, name);
}
