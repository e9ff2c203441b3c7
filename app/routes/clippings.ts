import { z } from "zod";
import {
  addClipping,
  changeClipping,
  clippings,
  fileClipping,
  takeClippingFile,
} from "~/server/campaigns/clippings";
import { actions, way } from "../deeds";
import type { Route } from "./+types/clippings";

type Args = Route.ActionArgs;

/** The clippings of the workspace. */
export function loader({ context: { septima } }: Route.LoaderArgs) {
  return clippings(septima);
}

/** Keeps, changes and files clippings. */
export const action = actions({
  add: way(
    z.object({ name: z.string(), part: z.enum(["section", "row", "block"]), node: z.unknown() }),
    async ({ name, part, node }, { context: { septima } }: Args) => ({
      clipping: await addClipping(septima, name, part, node),
    }),
  ),
  change: way(
    z.object({ id: z.string(), node: z.unknown(), except: z.string().optional() }),
    ({ id, node, except }, { context: { septima } }: Args) => changeClipping(septima, id, node, except),
  ),
  file: way(
    z.object({ id: z.string(), name: z.string(), labels: z.string() }),
    ({ id, ...facts }, { context: { septima } }: Args) => fileClipping(septima, id, facts),
  ),
  bring: way(
    z.object({ file: z.string(), text: z.string() }),
    async ({ file, text }, { context: { septima } }: Args) => ({
      clipping: await takeClippingFile(septima, file, text),
    }),
  ),
});
