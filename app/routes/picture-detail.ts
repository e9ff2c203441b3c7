import { z } from "zod";
import { PictureStepsSchema } from "~/core/pictures";
import { savePictureCopy, savePictureOver, tryPicture, writingFor } from "~/server/pictures/editing";
import { pictureDetail } from "~/server/pictures/library";
import { usesOfPicture } from "~/server/pictures/uses";
import { jsonInput } from "../input";
import { orNotHere, orProblem } from "../refusal";
import type { Route } from "./+types/picture-detail";

/** All that is known of a picture, and by what it is used. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  return Response.json(
    await orNotHere(async () => ({
      ...(await pictureDetail(septima, params.picture)),
      uses: await usesOfPicture(septima, params.picture),
      writing: await writingFor(septima),
    })),
  );
}

const Body = z.discriminatedUnion("as", [
  z.object({
    as: z.literal("over"),
    steps: PictureStepsSchema,
    except: z.string().optional(),
    scheduled: z.array(z.string()).max(1000).optional(),
  }),
  z.object({ as: z.literal("copy"), steps: PictureStepsSchema, name: z.string().max(200).optional() }),
  z.object({
    as: z.literal("trial"),
    steps: PictureStepsSchema,
    width: z.number().int().positive().optional(),
  }),
]);

/** Saves what steps make of it: over it, as a copy, or not at all, to be looked at. */
export async function action({ context: { septima }, params, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    switch (body.as) {
      case "over":
        return savePictureOver(septima, params.picture, body.steps, body);
      case "copy":
        return { picture: await savePictureCopy(septima, params.picture, body.steps, body.name) };
      case "trial": {
        const { type, data } = await tryPicture(
          septima,
          await pictureDetail(septima, params.picture),
          body.steps,
          body.width,
        );
        return { type, bytes: data.byteLength, data: data.toString("base64") };
      }
    }
  });
}
