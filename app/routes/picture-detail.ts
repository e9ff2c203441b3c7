import { z } from "zod";
import { PictureStepsSchema } from "~/core/pictures";
import { savePictureCopy, savePictureOver, tryPicture, writingFor } from "~/server/pictures/editing";
import { pictureDetail } from "~/server/pictures/library";
import { usesOfPicture } from "~/server/pictures/uses";
import { actions, way } from "../deeds";
import type { Route } from "./+types/picture-detail";

/** All that is known of a picture, and by what it is used. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  return {
    ...(await pictureDetail(septima, params.picture)),
    uses: await usesOfPicture(septima, params.picture),
    writing: await writingFor(septima),
  };
}

type Args = Route.ActionArgs;

/** Saves what steps make of it: over it, as a copy, or not at all, to be looked at. */
export const action = actions({
  over: way(
    z.object({
      steps: PictureStepsSchema,
      except: z.string().optional(),
      scheduled: z.array(z.string()).max(1000).optional(),
    }),
    ({ steps, ...how }, { context: { septima }, params }: Args) =>
      savePictureOver(septima, params.picture, steps, how),
  ),
  copy: way(
    z.object({ steps: PictureStepsSchema, name: z.string().max(200).optional() }),
    async ({ steps, name }, { context: { septima }, params }: Args) => ({
      picture: await savePictureCopy(septima, params.picture, steps, name),
    }),
  ),
  trial: way(
    z.object({ steps: PictureStepsSchema, width: z.number().int().positive().optional() }),
    async ({ steps, width }, { context: { septima }, params }: Args) => {
      const detail = await pictureDetail(septima, params.picture);
      const { type, data } = await tryPicture(septima, detail, steps, width);
      return { type, bytes: data.byteLength, data: data.toString("base64") };
    },
  ),
});
