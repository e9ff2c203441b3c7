import { Refusal } from "~/server/septima";
import { addPicture } from "~/server/workspace/pictures";
import { formInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/picture-upload";

export async function action({ context, request }: Route.ActionArgs) {
  return orProblem(async () => {
    const file = (await formInput(request)).get("picture");
    if (!(file instanceof File)) throw new Refusal("Choose a picture file.");
    return addPicture(context.septima, file.name, new Uint8Array(await file.arrayBuffer()));
  });
}
