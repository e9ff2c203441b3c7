import { useState } from "react";
import type { Contact } from "~/core/audience";
import type { TablePart, TableQuery } from "~/server/audience/table";
import { ListProblem, usePages } from "../ui/use-pages";

async function load(query: string, from: number, count: number): Promise<TablePart> {
  const response = await fetch("/audience/rows", {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ query: JSON.parse(query), from, count }),
  });
  const { problem, result } = (await response.json()) as {
    problem: string | null;
    result: TablePart | null;
  };
  if (!result) throw new ListProblem(problem ?? "The contacts cannot be shown.");
  return result;
}

/** The rows of a table of contacts, and how many can be written to. `version` changes when they may have changed. */
export function useRows(query: TableQuery, version: unknown) {
  const [readers, setReaders] = useState(0);
  const pages = usePages<Contact, TablePart>(JSON.stringify(query), load, {
    version,
    onPart: (part) => setReaders(part.readers),
  });
  return { ...pages, readers };
}
