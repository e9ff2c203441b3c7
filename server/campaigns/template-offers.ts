/** A template's changes, done to several campaigns at once; also by the process that comes after one that was killed. */
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { carried } from "./carrying";
import { takeTemplate } from "./templates";

/**
 * Does a template's changes to parts of several campaigns.
 * @throws Refusal as `takeTemplate` does; those before have theirs
 */
export function takeTemplates(
  septima: Septima,
  template: string,
  asked: { campaign: string; parts: string[] }[],
): Promise<void> {
  return carried(septima, "template", { template, asked }, async () => {
    for (const { campaign: id, parts } of asked) await takeTemplate(septima, template, id, parts);
  });
}

/**
 * Does a template's changes to those campaigns that a process left without them: where they are offered no more they are
 * done, or were changed since.
 */
export async function carryTemplate(
  septima: Septima,
  { template, asked }: { template: string; asked: { campaign: string; parts: string[] }[] },
): Promise<void> {
  for (const { campaign: id, parts } of asked)
    await takeTemplate(septima, template, id, parts).catch((error) => {
      if (!(error instanceof Refusal)) throw error;
    });
}
