import type { Contact } from "~/core/audience";
import type { TableQuery } from "~/server/audience/table";
import { ListProblem, type Part, usePages } from "../ui/use-pages";

async function load(query: string, from: number, count: number): Promise<Part<Contact>> {
  const response = await fetch("/audience/rows", {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ query: JSON.parse(query), from, count }),
  });
  const { problem, result } = (await response.json()) as {
    problem: string | null;
    result: Part<Contact> | null;
  };
  if (!result) throw new ListProblem(problem ?? "The contacts cannot be shown.");
  return result;
}

/** The rows of a table of contacts. `version` changes when they may have changed. */
export function useRows(query: TableQuery, version: unknown) {
  return usePages<Contact>(JSON.stringify(query), load, { version });
}
