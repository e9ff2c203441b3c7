import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

/** Blocks that count friends while there is no programme. */
function withoutProgramme(email: Email, { tags = {} }: Circumstances): Finding[] {
  return blocksOf(email).flatMap((block): Finding[] =>
    block.type === "refer" && block.programme === true && !tags.referrals
      ? [
          {
            weight: "stops",
            text: "A block asks for friends by each reader’s own link, but the programme is off. Switch it on under Referrals.",
            block: block.id,
          },
        ]
      : [],
  );
}

export const programmeCheck: Check = {
  name: "programme",
  group: "readers",
  label: "the programme for friends",
  why: "Readers would be promised what nobody counts.",
  design: withoutProgramme,
};
