import { z } from "zod";
import { MappingSchema } from "~/core/sources";
import { addSource, moveSource, refreshSource, setMapping, setSource } from "~/server/sources/sources";
import { actions, way } from "../deeds";
import type { Route } from "./+types/source-change";

type Args = Route.ActionArgs;
const address = z.string().trim().min(1).max(2000);

/** Adds sources, reads them again, and changes what is said of them. */
export const action = actions({
  add: way(z.object({ address }), async ({ address }, { context: { septima } }: Args) => ({
    id: await addSource(septima, address),
  })),
  refresh: way(z.object({ id: z.string() }), ({ id }, { context: { septima } }: Args) =>
    refreshSource(septima, id),
  ),
  move: way(z.object({ id: z.string(), address }), ({ id, address }, { context: { septima } }: Args) =>
    moveSource(septima, id, address),
  ),
  set: way(
    z.object({
      id: z.string(),
      name: z.string().max(200),
      every: z.number().int().min(1).max(10_080).nullable(),
      stopsAfter: z.number().int().min(0).max(10_000).nullable(),
    }),
    ({ id, ...said }, { context: { septima } }: Args) => setSource(septima, id, said),
  ),
  map: way(
    z.object({ id: z.string(), mapping: MappingSchema }),
    ({ id, mapping }, { context: { septima } }: Args) => setMapping(septima, id, mapping),
  ),
  publish: way(z.object({ id: z.string() }), (_source, { context: { publisher } }: Args) =>
    publisher.publish(),
  ),
});
