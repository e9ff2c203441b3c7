/**
 * A letter written in a hurry. What is wrong in it is wrong on purpose: at least one fault of each weight, some of them
 * in some editions only, for preflight to find.
 */
import type { Rule } from "~/core/audience";
import type { Email } from "~/core/email";
import { Temporal } from "~/core/values";
import { builders, type Kit, letter } from "./emails";

const is = (field: string, value: string): Rule => ({ kind: "field", field, op: "is", value });
/** So many days ahead the sale begins. */
const AHEAD = 24;

/** What is planted, by the check that finds it, and the block it is found at where that has a name. */
export const PLANTED: readonly { check: string; weight: "stops" | "look" | "could"; at?: string }[] = [
  { check: "unready", weight: "stops", at: "To the sale" },
  { check: "fallbacks", weight: "look", at: "Greeting" },
  { check: "blanks", weight: "look", at: "Greeting" },
  { check: "twice", weight: "look", at: "Greeting" },
  { check: "spelling", weight: "look", at: "Greeting" },
  { check: "dates", weight: "look", at: "When" },
  { check: "contrast", weight: "look", at: "Only in the cool zone" },
  { check: "alternative", weight: "look", at: "Bench" },
  { check: "links-address", weight: "look", at: "Only on balconies" },
  { check: "links-words", weight: "could", at: "Only on balconies" },
  { check: "type-size", weight: "could", at: "Small print" },
  { check: "inbox-line", weight: "could" },
];

/** @param today `YYYY-MM-DD` */
export function hastyLetter(world: Kit, today: string): Email {
  const b = builders(world);
  const day = Temporal.PlainDate.from(today).add({ days: AHEAD });
  const written = (weekday: Temporal.PlainDate) =>
    `${weekday.toLocaleString("en-GB", { weekday: "long" })} ${day.toLocaleString("en-GB", { day: "numeric", month: "long", year: "numeric" })}`;
  return letter(world, "greenhouse", "Bare roots are here", "", [
    b.hero({ ...b.picture("workshop", "IMG_2041.jpg"), name: "Bench" }),
    b.stack(
      b.h1("Bare-root week"),
      {
        ...b.text(
          "Dear {first_name|}, the the first lorries with roses, currants and appels stand in the yard.",
        ),
        name: "Greeting",
      },
      { ...b.text(`We open the shed on ${written(day.add({ days: 1 }))}, at nine.`), name: "When" },
      {
        ...b.h3("Wait for the thaw before you plant"),
        name: "Only in the cool zone",
        color: "#A09CA6",
        show: is("growing_zone", "cool"),
      },
      {
        ...b.text("No garden? Currants grow in pots: [click here](www.tansyrow.example/pots)."),
        name: "Only on balconies",
        show: is("plot", "balcony"),
      },
      { ...b.button("See what came", "/bare-roots"), href: "", name: "To the sale" },
      { ...b.aside("As long as they last.", "left", 11), name: "Small print" },
    ),
    b.footer(),
  ]);
}
