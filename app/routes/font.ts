import { fontFile } from "~/server/workspace/fonts";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/font";

/** Fonts are asked for by messages wherever they are read, and browsers want to be told that all may have them. */
export async function loader({ context, params }: Route.LoaderArgs) {
  const answer = fileAnswer("font/woff2", await fontFile(context.septima, params.file), "forever");
  answer.headers.set("Access-Control-Allow-Origin", "*");
  answer.headers.set("Cross-Origin-Resource-Policy", "cross-origin");
  return answer;
}
