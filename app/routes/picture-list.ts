import { z } from "zod";
import {
  filePictures,
  findPictures,
  PictureFilingSchema,
  PictureQuerySchema,
  pictureChosen,
  pictureFiling,
} from "~/server/pictures/library";
import { input, jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/picture-list";

/** A part of the library that fits what is looked for; with the first part, what the library is filed in. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const query = input(PictureQuerySchema, Object.fromEntries(new URL(request.url).searchParams));
  const filing = query.from === 0 ? await pictureFiling(septima) : null;
  return Response.json({ ...(await findPictures(septima, query)), filing });
}

const Body = z.union([
  z.object({ ids: z.array(z.string()).min(1).max(5000), file: PictureFilingSchema }),
  z.object({ chosen: z.string() }),
]);

/** Files and describes pictures, or says that one was chosen. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(() =>
    "chosen" in body ? pictureChosen(septima, body.chosen) : filePictures(septima, body.ids, body.file),
  );
}
