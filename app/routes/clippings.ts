import { z } from "zod";
import {
  addClipping,
  changeClipping,
  clippings,
  fileClipping,
  setClippingRemoved,
  takeClippingFile,
} from "~/server/campaigns/clippings";
import { usesOf } from "~/server/mentions";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/clippings";

const Body = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("add"),
    name: z.string(),
    part: z.enum(["section", "row", "block"]),
    node: z.unknown(),
  }),
  z.object({
    intent: z.literal("change"),
    id: z.string(),
    node: z.unknown(),
    except: z.string().optional(),
  }),
  z.object({ intent: z.literal("file"), id: z.string(), name: z.string(), labels: z.string() }),
  z.object({ intent: z.literal("remove"), id: z.string() }),
  z.object({ intent: z.literal("restore"), id: z.string() }),
  z.object({ intent: z.literal("bring"), file: z.string(), text: z.string() }),
]);

/** The clippings of the workspace; with `?uses=` where one is linked. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const of = new URL(request.url).searchParams.get("uses");
  return Response.json(of === null ? await clippings(septima) : await usesOf(septima.db, "clipping", [of]));
}

export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    switch (body.intent) {
      case "add":
        return { clipping: await addClipping(septima, body.name, body.part, body.node) };
      case "change":
        return changeClipping(septima, body.id, body.node, body.except);
      case "bring":
        return { clipping: await takeClippingFile(septima, body.file, body.text) };
      case "file":
        await fileClipping(septima, body.id, body);
        return {};
      default:
        await setClippingRemoved(septima, body.id, body.intent === "remove");
        return {};
    }
  });
}
