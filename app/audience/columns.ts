import { useEffect, useState } from "react";
import { type Contact, contactName, type FieldDef } from "~/core/audience";

export interface Column {
  key: string;
  label: string;
  width: number;
  /** Numbers stand at the right. */
  right?: boolean;
  text(contact: Contact): string;
}

const STATUS = {
  subscribed: "subscribed",
  unsubscribed: "unsubscribed",
  bounced: "bounced",
  complained: "complained",
  removed: "removed",
};

/** A value as a cell shows it. */
export function fieldText(field: FieldDef, value: unknown): string {
  if (value === undefined || value === null) return "";
  if (value === true) return "yes";
  if (value === false) return "no";
  const label = (one: string) => field.options?.find((option) => option.value === one)?.label ?? one;
  if (Array.isArray(value)) return value.map((one) => label(String(one))).join(", ");
  if (typeof value === "number")
    return field.kind === "money" && field.currency
      ? new Intl.NumberFormat("en-GB", { style: "currency", currency: field.currency }).format(value)
      : value.toLocaleString("en");
  return typeof value === "string" ? label(value) : JSON.stringify(value);
}

const NAME: Column = { key: "name", label: "Name", width: 190, text: contactName };

/** All that a table of contacts can show; the name is always there. */
export function columnsOf(fields: readonly FieldDef[], lists: ReadonlyMap<string, string>): Column[] {
  return [
    NAME,
    { key: "email", label: "Address", width: 240, text: ({ email }) => email },
    { key: "status", label: "State", width: 110, text: ({ status = "subscribed" }) => STATUS[status] },
    {
      key: "lists",
      label: "Lists",
      width: 180,
      text: (contact) => contact.lists.map((id) => lists.get(id) ?? "").join(", "),
    },
    ...fields
      .filter(({ key }) => key !== "email")
      .map(
        (field): Column => ({
          key: field.key,
          label: field.label,
          width: field.kind === "number" || field.kind === "boolean" ? 100 : 130,
          right: field.kind === "number" || field.kind === "money",
          text: ({ fields: known }) => fieldText(field, known[field.key]),
        }),
      ),
  ];
}

const KEPT = "septima.columns";
const USUAL = ["email", "status", "joined"];

/** The columns that are shown, kept in this browser; at first the usual ones and the workspace's own first fields. */
export function useColumns(all: readonly Column[], own: readonly string[]) {
  const [keys, setKeys] = useState<readonly string[]>([...USUAL, ...own.slice(0, 4)]);
  useEffect(() => {
    try {
      const kept: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "null");
      if (Array.isArray(kept)) setKeys(kept.filter((key): key is string => typeof key === "string"));
    } catch {
      // What was kept cannot be read: the usual ones are shown.
    }
  }, []);
  const choose = (next: readonly string[]) => {
    setKeys(next);
    localStorage.setItem(KEPT, JSON.stringify(next));
  };
  return { shown: [all[0], ...all.slice(1).filter(({ key }) => keys.includes(key))], keys, choose };
}
