import { searchMail } from "~/server/mail/read";
import type { Route } from "./+types/message-list";

/** The postroom's messages as JSON, 500 at a time, for programs that read along. */
export async function loader({ context, request }: Route.LoaderArgs) {
  const { searchParams } = new URL(request.url);
  const found = await searchMail(context.septima, {
    text: searchParams.get("q") ?? "",
    offset: Math.max(0, Number(searchParams.get("from")) || 0),
    limit: 500,
  });
  return Response.json(found ?? { total: 0, messages: [] });
}
