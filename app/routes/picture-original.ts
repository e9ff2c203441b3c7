import { originalFile, workingFile } from "~/server/pictures/files";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/picture-original";

/** The original of a picture: as it came, to keep; or small enough to be worked on in a browser. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const asFile = new URL(request.url).searchParams.has("file");
  if (!asFile) {
    const { type, data } = await workingFile(septima, params.picture);
    return fileAnswer(type, data);
  }
  const { name, data } = await originalFile(septima, params.picture);
  return fileAnswer("application/octet-stream", data, name);
}
