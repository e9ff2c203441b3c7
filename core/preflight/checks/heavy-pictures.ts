/** Pictures that are too heavy. */
import { picturesOf } from "../../blocks";
import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

const kilobytes = (bytes: number) => `${Math.round(bytes / 1024).toLocaleString("en")} KB`;

function design(email: Email, { weights }: Circumstances): Finding[] {
  if (!weights) return [];
  const { pictures, total, light } = weights;
  const each = pictures.flatMap(({ name, src, bytes }): Finding[] => {
    if (bytes === null || bytes <= light.each) return [];
    const block = blocksOf(email).find(
      (one) => src && picturesOf(one).some(({ picture }) => picture.src === src),
    );
    return [
      {
        weight: bytes > 5 * light.each ? "look" : "could",
        text: `The picture “${name}” weighs ${kilobytes(bytes)}. Make it lighter under Pictures, where before and after stand side by side.`,
        ...(block && { block: block.id }),
      },
    ];
  });
  if (total <= light.all) return each;
  return [
    ...each,
    {
      weight: "look",
      text: `All pictures together weigh ${kilobytes(total)}, and ${kilobytes(light.all)} are enough. Make the heaviest lighter, or take some out.`,
    },
  ];
}

export const heavyPicturesCheck: Check = {
  name: "heavy-pictures",
  group: "content",
  label: "light pictures",
  why: "On the way, pictures come slowly and cost money: what is not there in a second is not seen.",
  design,
};
