import type { Email } from "../../email";
import { enlargedPictures } from "../../render";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

function enlarged(email: Email, { brand, theme }: Circumstances): Finding[] {
  return enlargedPictures(email, { theme, brand, origin: "" }).map(({ block, alt, own, shown }) => ({
    weight: "look",
    text: `${alt === "" ? "A picture" : `The picture “${alt}”`} is ${own} px wide and shown at ${shown}: it looks blurred. Choose a larger one, or show it smaller.`,
    block,
  }));
}

export const enlargedCheck: Check = {
  name: "enlarged",
  group: "content",
  label: "pictures large enough for their place",
  why: "Enlarged pictures look blurred, on good screens most of all.",
  design: enlarged,
};
