import type { LoaderFunctionArgs as Args } from "react-router";
import { z } from "zod";
import { type Author, answerTalk, beginTalk, resolveTalk } from "~/server/review/comments";
import { way } from "../deeds";

const Place = z.object({
  block: z.string().max(100).nullable(),
  quote: z.object({ exact: z.string().max(400), before: z.string().max(64) }).nullable(),
});

/** Where something is said, and by whom. */
interface Here {
  campaign: string;
  by: Author;
}

/** What can be done with the talks of a campaign; `here` finds out of which, and who says it. */
export function talkWays(here: (args: Args, name: string) => Promise<Here>) {
  const named = z.object({ name: z.string().max(80) });
  return {
    begin: way(
      named.extend(Place.shape).extend({ words: z.string(), reader: z.number().int().nullable() }),
      async ({ name, ...said }, args: Args) => {
        const { campaign, by } = await here(args, name);
        await beginTalk(args.context.septima, campaign, by, said);
        return null;
      },
    ),
    answer: way(
      named.extend({ talk: z.string(), words: z.string() }),
      async ({ name, ...said }, args: Args) => {
        const { campaign, by } = await here(args, name);
        await answerTalk(args.context.septima, campaign, by, said);
        return null;
      },
    ),
    resolve: way(
      named.extend({ talk: z.string(), resolved: z.boolean() }),
      async ({ name, ...said }, args: Args) => {
        const { campaign, by } = await here(args, name);
        await resolveTalk(args.context.septima, campaign, by, said);
        return null;
      },
    ),
  };
}
