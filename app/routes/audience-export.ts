import { contactsAsCsv } from "~/server/audience/exporting";
import { GroupSchema } from "~/server/audience/selection";
import { type Pick, PickSchema } from "~/server/audience/table";
import type { Septima } from "~/server/septima";
import { formInput, input, jsonOf } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/audience-export";

/** The contacts of a list, a segment or the whole audience as a CSV file, as it is read. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const { searchParams } = new URL(request.url);
  const group = input(GroupSchema, {
    kind: searchParams.get("kind") ?? "everyone",
    id: searchParams.get("id") ?? "",
  });
  return answer(septima, {
    all: { group, words: "", filter: null, sort: { by: "id", down: false } },
    but: [],
  });
}

/** The contacts that were marked, or what is in view of a table. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  return answer(septima, input(PickSchema, jsonOf((await formInput(request)).get("pick"))));
}

async function answer(septima: Septima, pick: Pick): Promise<Response> {
  const { data } = await orProblem(() => contactsAsCsv(septima, pick));
  if (data.problem !== null) return new Response(data.problem, { status: 400 });
  const pieces = data.result;
  const encoder = new TextEncoder();
  return new Response(
    new ReadableStream({
      async pull(controller) {
        const { done, value } = await pieces.next();
        if (done) controller.close();
        else controller.enqueue(encoder.encode(value));
      },
      async cancel() {
        await pieces.return(undefined);
      },
    }),
    {
      headers: {
        "content-type": "text/csv; charset=utf-8",
        "content-disposition": 'attachment; filename="contacts.csv"',
        "cache-control": "no-store",
      },
    },
  );
}
