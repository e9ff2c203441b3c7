import { Refusal } from "~/server/refusal";
import { addFont, addFontFrom } from "~/server/workspace/fonts";
import { formInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/font-upload";

/** Takes in a font for the brand: a file, or the address of one. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  return orProblem(async () => {
    const form = await formInput(request);
    const file = form.get("font");
    if (file instanceof File && file.size > 0)
      return addFont(septima, new Uint8Array(await file.arrayBuffer()), { name: file.name });
    const address = form.get("address");
    if (typeof address !== "string" || address.trim() === "")
      throw new Refusal("Choose a font file, or give the address of one.");
    return addFontFrom(septima, address.trim());
  });
}
