import { useState } from "react";
import type { Contact } from "~/core/audience";
import type { TablePart, TableQuery } from "~/server/audience/table";
import { tell } from "../requests";
import { ListProblem, usePages } from "../ui/use-pages";

async function load(query: string, from: number, count: number): Promise<TablePart> {
  const { problem, result } = await tell("/audience/rows", {
    query: JSON.parse(query) as TableQuery,
    from,
    count,
  });
  if (problem !== null) throw new ListProblem(problem);
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
