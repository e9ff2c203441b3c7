import { z } from "zod";
import { readFile, readWriting } from "~/server/intake/intake";
import { orProblem } from "../refusal";
import type { Route } from "./+types/intake";

const Kind = z.enum(["text", "markdown", "html"]);

/** Reads a file or pasted writing and answers with the blocks it makes. Nothing is changed yet. */
export async function action({ context, request }: Route.ActionArgs) {
  const form = await request.formData();
  return orProblem(async () => {
    const file = form.get("file");
    if (file instanceof File && file.size > 0)
      return readFile(context.septima, file.name, Buffer.from(await file.arrayBuffer()));
    return readWriting(context.septima, Kind.parse(form.get("kind")), String(form.get("text") ?? ""));
  });
}
