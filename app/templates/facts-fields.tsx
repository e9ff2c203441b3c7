import { useState } from "react";
import { PURPOSES } from "~/core/email";
import { Choose } from "../ui/choose";
import { Input, Labelled } from "../ui/form";
import { SEASON_OR_ANY } from "./seasons";

/** What is said of a template: name, a line about it, what it is for, and when. */
export function FactsFields({
  name = "",
  about = "",
  purpose = "",
  season = "",
  labels = [],
}: {
  name?: string;
  about?: string;
  purpose?: string;
  season?: string;
  labels?: readonly string[];
}) {
  const [chosen, setChosen] = useState({ purpose: purpose || "none", season: season || "none" });
  return (
    <>
      <Labelled label="Name">
        <Input name="name" defaultValue={name} maxLength={120} required />
      </Labelled>
      <Labelled
        label="What it is like"
        hint="A line that helps to choose it, such as “one column, no pictures”."
      >
        <Input name="about" defaultValue={about} maxLength={300} />
      </Labelled>
      <Labelled label="Labels" hint="To find it by, parted by commas.">
        <Input name="labels" defaultValue={labels.join(", ")} />
      </Labelled>
      <div className="grid grid-cols-2 gap-3">
        <Labelled label="To">
          <Choose
            name="purpose"
            value={chosen.purpose}
            onChange={(next) => setChosen({ ...chosen, purpose: next })}
            options={[
              { value: "none", label: "Anything" },
              ...PURPOSES.map(({ key, label }) => ({ value: key as string, label })),
            ]}
          />
        </Labelled>
        <Labelled label="In">
          <Choose
            name="season"
            value={chosen.season}
            onChange={(next) => setChosen({ ...chosen, season: next })}
            options={SEASON_OR_ANY}
          />
        </Labelled>
      </div>
    </>
  );
}
