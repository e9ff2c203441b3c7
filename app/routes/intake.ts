import { z } from "zod";
import { readFile, readWriting } from "~/server/intake/intake";
import { formInput, input } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/intake";

const Kind = z.enum(["text", "markdown", "html"]);

/** Reads a file or pasted writing and answers with the blocks it makes. Nothing is changed yet. */
export async function action({ context, request }: Route.ActionArgs) {
  const form = await formInput(request);
  return orProblem(async () => {
    const file = form.get("file");
    if (file instanceof File && file.size > 0)
      return readFile(context.septima, file.name, Buffer.from(await file.arrayBuffer()));
    return readWriting(context.septima, input(Kind, form.get("kind")), String(form.get("text") ?? ""));
  });
}
