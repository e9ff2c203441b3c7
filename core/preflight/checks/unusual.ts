/** Whether about as many get it as its series usually has. */
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

const amount = (count: number) => `${count.toLocaleString("en")} ${count === 1 ? "reader" : "readers"}`;

function unusual(_: unknown, { readers, usual }: Circumstances): Finding[] {
  if (!usual || readers.count === 0 || usual.times < 3) return [];
  const times = readers.count / usual.readers;
  if (times > 0.5 && times < 2) return [];
  return [
    {
      weight: "look",
      text: `It goes to ${amount(readers.count)}, and the last ${usual.times} of “${usual.series}” went to about ${usual.readers.toLocaleString("en")}. Look under Readers whether that is meant.`,
    },
  ];
}

export const unusualCheck: Check = {
  name: "unusual",
  group: "readers",
  label: "about as many readers as usual",
  why: "A list chosen by mistake is noticed by everybody on it.",
  design: unusual,
};
