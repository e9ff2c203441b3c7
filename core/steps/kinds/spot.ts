import { z } from "zod";

/** A spot as it is sent. */
export const SpotSchema = z.object({
  parent: z.string().nullable(),
  after: z.string().nullable(),
  before: z.string().nullable(),
});
