/** The tables of the demo that its contacts point to: the four branches and the six advisers. */
import type { FactDef, RecordTable } from "~/core/audience";

type Made = { table: RecordTable; records: { id: string; name: string; facts: Record<string, string> }[] };

const text = (key: string, label: string): FactDef => ({ key, label, kind: "text" });

/** A name as an id: "Edda Grünwald" is edda-grunwald. */
const plain = (name: string) =>
  name
    .normalize("NFD")
    .toLowerCase()
    .replace(/[\u0300-\u036f]/g, "")
    .replace(/[^a-z]+/g, "-");

/** @param portraits the addresses of pictures, by the names of branches and people */
export function demoTables(portraits: Readonly<Record<string, string>>): Made[] {
  const branch = (name: string, facts: Record<string, string>) => ({
    id: name,
    name,
    facts: { ...facts, ...(portraits[name] && { picture: portraits[name] }) },
  });
  const adviser = (name: string, subject: string, phone: string) => ({
    id: plain(name),
    name,
    facts: { subject, phone, email: `${name.split(" ")[0].toLowerCase()}@tansyrow.example` },
  });
  return [
    {
      table: {
        id: "branches",
        name: "Branches",
        facts: [
          text("phone", "Phone"),
          text("address", "Address"),
          text("hours", "Opening hours"),
          text("manager", "Manager"),
          { key: "picture", label: "Picture", kind: "picture" },
        ],
      },
      records: [
        branch("Alderwick", {
          phone: "01632 960 110",
          address: "3 Nursery Lane, Alderwick AL4 2TR",
          hours: "nine to five, Sundays ten to four",
          manager: "Petra Lindqvist",
        }),
        branch("Marl Bay", {
          phone: "01632 960 120",
          address: "18 Quay Street, Marl Bay MB1 7HA",
          hours: "ten to six, closed on Mondays",
          manager: "Idris Okafor",
        }),
        branch("Stonecross", {
          phone: "01632 960 130",
          address: "The Old Kilns, Stonecross ST9 0XE",
          hours: "nine to five",
          manager: "Wren Trevanion",
        }),
        branch("Fennimoor", {
          phone: "01632 960 140",
          address: "Fen End Farm, Fennimoor FM3 5QW",
          hours: "nine to four, weekends only in winter",
          manager: "Maren Østergaard",
        }),
      ],
    },
    {
      table: {
        id: "advisers",
        name: "Advisers",
        facts: [text("subject", "Knows about"), text("phone", "Phone"), text("email", "Address")],
      },
      records: [
        adviser("Hester Quill", "vegetables", "01632 960 151"),
        adviser("Bram Szymański", "fruit trees", "01632 960 152"),
        adviser("Oona Pellerin", "roses", "01632 960 153"),
        adviser("Ravi Sandoval", "balconies", "01632 960 154"),
        adviser("Edda Grünwald", "soil", "01632 960 155"),
        adviser("Silas Thorne", "pests", "01632 960 156"),
      ],
    },
  ];
}
