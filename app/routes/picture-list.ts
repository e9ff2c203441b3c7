import { z } from "zod";
import {
  filePictures,
  findPictures,
  PictureFilingSchema,
  PictureQuerySchema,
  pictureChosen,
  pictureFiling,
} from "~/server/pictures/library";
import { actions, way } from "../deeds";
import { input } from "../input";
import type { Route } from "./+types/picture-list";

/** A part of the library that fits what is looked for; with the first part, what the library is filed in. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const query = input(PictureQuerySchema, Object.fromEntries(new URL(request.url).searchParams));
  const filing = query.from === 0 ? await pictureFiling(septima) : null;
  return { ...(await findPictures(septima, query)), filing };
}

type Args = Route.ActionArgs;

/** Files and describes pictures, or says that one was chosen. */
export const action = actions({
  file: way(
    z.object({ ids: z.array(z.string()).min(1).max(5000), filing: PictureFilingSchema }),
    ({ ids, filing }, { context: { septima } }: Args) => filePictures(septima, ids, filing),
  ),
  chosen: way(z.object({ id: z.string() }), ({ id }, { context: { septima } }: Args) =>
    pictureChosen(septima, id),
  ),
});
