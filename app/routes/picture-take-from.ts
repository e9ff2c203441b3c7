import { z } from "zod";
import { addPictureFrom } from "~/server/pictures/taking";
import { action as one } from "../deeds";
import type { Route } from "./+types/picture-take-from";

const Body = z.object({
  address: z.url({ protocol: /^https?$/, error: "a web address begins with https://" }),
});

/** Takes a picture into the library from an address. */
export const action = one(Body, ({ address }, { context: { septima } }: Route.ActionArgs) =>
  addPictureFrom(septima, address),
);
