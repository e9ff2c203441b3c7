import { searchContacts } from "~/server/audience/contacts";
import type { Route } from "./+types/reader-search";

export async function loader({ context, request }: Route.LoaderArgs) {
  return searchContacts(context.septima, new URL(request.url).searchParams.get("q") ?? "", 20);
}
