import { csvRecord } from "~/core/audience";
import type { Septima } from "../septima";
import { fieldsOf } from "./fields";
import { audienceContext } from "./groups";
import { type Group, groupSql } from "./selection";

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
 * The contacts of a group as CSV, in pieces: all their fields, the names of their lists and whether they may be written
 * to. It begins with a byte order mark, by which spreadsheets tell UTF-8.
 * @throws RuleError when a segment is gone
 */
export async function contactsAsCsv(septima: Septima, group: Group): Promise<AsyncGenerator<string>> {
  const fields = await fieldsOf(septima);
  const { sql, params } = groupSql(group, await audienceContext(septima), 2);
  async function* pieces() {
    yield `\ufeff${csvRecord([...fields.map(({ label }) => label), "Lists", "Status"])}`;
    let last = 0;
    for (;;) {
      const rows = await septima.db.query<Taken>(
        `select c.id, c.email, c.fields, c.status,
           coalesce((select array_agg(l.name order by l.name) from list_members m join lists l on l.id = m.list_id
             where m.contact_id = c.id), '{}') as lists
         from contacts c where c.id > $1 and ${sql} order by c.id limit $2`,
        [last, BATCH, ...params],
      );
      if (rows.length === 0) return;
      last = rows[rows.length - 1].id;
      yield rows
        .map((row) =>
          csvRecord([
            ...fields.map(({ key }) => (key === "email" ? row.email : row.fields[key])),
            row.lists,
            row.status,
          ]),
        )
        .join("");
    }
  }
  return pieces();
}
