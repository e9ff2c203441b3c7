import { csvRecord } from "~/core/audience";
import type { Septima } from "../septima";
import { fieldsOf } from "./fields";
import { type Pick, picked } from "./table";

/** So many contacts are held at a time. */
const BATCH = 2000;

interface Taken {
  id: number;
  email: string;
  fields: Record<string, unknown>;
  status: string;
  lists: string[];
}

/**
 * Contacts as CSV, in pieces and in the order of their table: all their fields, the names of their lists and whether they
 * may be written to. Records stand there by their names. It begins with a byte order mark, by which spreadsheets tell
 * UTF-8.
 * @throws RuleError when a segment is gone
 */
export async function contactsAsCsv(septima: Septima, pick: Pick): Promise<AsyncGenerator<string>> {
  const fields = await fieldsOf(septima);
  const names = new Map(
    fields
      .filter(({ kind }) => kind === "record")
      .map(({ key, options = [] }) => [key, new Map(options.map(({ value, label }) => [value, label]))]),
  );
  const ids = await picked(septima, pick);
  const cellOf = ({ email, fields: known }: Taken, key: string): unknown => {
    if (key === "email") return email;
    const value = known[key];
    return typeof value === "string" ? (names.get(key)?.get(value) ?? value) : value;
  };
  async function* pieces() {
    yield `\ufeff${csvRecord([...fields.map(({ label }) => label), "Lists", "Status"])}`;
    for (let from = 0; from < ids.length; from += BATCH) {
      const rows = await septima.db.query<Taken>(
        `select c.id, c.email, c.fields, c.status,
           coalesce((select array_agg(l.name order by l.name) from list_members m
             join lists l on l.id = m.list_id and l.deleted_at is null where m.contact_id = c.id), '{}') as lists
         from unnest($1::int[]) with ordinality as wanted(id, place) join contacts c using (id) order by place`,
        [ids.slice(from, from + BATCH)],
      );
      yield rows
        .map((row) => csvRecord([...fields.map(({ key }) => cellOf(row, key)), row.lists, row.status]))
        .join("");
    }
  }
  return pieces();
}
