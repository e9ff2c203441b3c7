/** Whether its readers had something these days. */
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

const amount = (count: number) => `${count.toLocaleString("en")} ${count === 1 ? "reader" : "readers"}`;

function lately(_: unknown, { recent }: Circumstances): Finding[] {
  if (!recent || recent.readers === 0 || recent.readers < recent.of / 2) return [];
  return [
    {
      weight: "could",
      text: `${recent.readers.toLocaleString("en")} of ${amount(recent.of)} had “${recent.name}” less than ${recent.days} days ago. Wait a little, or leave them out.`,
    },
  ];
}

export const latelyCheck: Check = {
  name: "lately",
  group: "readers",
  label: "readers who had nothing these days",
  why: "Who hears too often stops listening, and then unsubscribes.",
  design: lately,
};
