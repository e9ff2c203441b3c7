import { expect, test } from "vitest";
import { newStep, type PictureStep } from "~/core/pictures";
import { Past } from "~/core/values";
import { reduceSteps } from "./use-steps";

type State = Parameters<typeof reduceSteps>[0];
type Action = Parameters<typeof reduceSteps>[1];
const start: State = { steps: [], selected: null, past: Past.empty };
const after = (...actions: Action[]) => actions.reduce(reduceSteps, start);
const light = (brightness: number) => ({ ...newStep("light", "l"), brightness }) as PictureStep;
const values = ({ steps }: State) =>
  steps.map((step) => ("brightness" in step ? step.brightness : step.kind));

test("drawing a slider is one thing to take back; drawing it again is another", () => {
  const drawn: Action[] = [
    { do: "add", step: light(5) },
    { do: "change", step: light(10) },
    { do: "change", step: light(20) },
    { do: "rest" },
    { do: "change", step: light(40) },
  ];
  expect(values(after(...drawn))).toEqual([40]);
  expect(values(after(...drawn, { do: "undo" }))).toEqual([20]);
  expect(values(after(...drawn, { do: "undo" }, { do: "undo" }))).toEqual([5]);
  expect(values(after(...drawn, { do: "undo" }, { do: "undo" }, { do: "undo" }))).toEqual([]);
  expect(values(after(...drawn, { do: "undo" }, { do: "undo" }, { do: "redo" }))).toEqual([20]);
});

test("a slider drawn after an undo does not belong to what was before it", () => {
  const state = after(
    { do: "add", step: light(5) },
    { do: "change", step: light(10) },
    { do: "rest" },
    { do: "change", step: light(20) },
    { do: "undo" },
    { do: "change", step: light(30) },
    { do: "undo" },
  );
  expect(values(state)).toEqual([10]);
});

test("what is selected stays it as long as it is there", () => {
  const state = after({ do: "add", step: light(5) });
  expect(state.selected).toBe("l");
  expect(reduceSteps(state, { do: "undo" }).selected).toBeNull();
});
