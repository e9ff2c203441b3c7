import { useCallback, useEffect, useReducer } from "react";
import {
  doesNothing,
  newStep,
  type PictureStep,
  PictureStepsSchema,
  SINGLE,
  type StepKind,
} from "~/core/pictures";
import { joinSwaps, Past, type Swap } from "~/core/values";

interface State {
  steps: readonly PictureStep[];
  /** The step whose controls are shown. */
  selected: string | null;
  past: Past<Swap<readonly PictureStep[]>>;
}

type Action =
  | { do: "change"; step: PictureStep }
  | { do: "add"; step: PictureStep }
  | { do: "remove"; id: string }
  | { do: "move"; id: string; by: number }
  | { do: "all"; steps: readonly PictureStep[] }
  | { do: "start"; steps: readonly PictureStep[] }
  | { do: "select"; id: string | null }
  | { do: "rest" }
  | { do: "undo" }
  | { do: "redo" };

const among = (steps: readonly PictureStep[], id: string | null) =>
  id !== null && steps.some((step) => step.id === id) ? id : null;

/** @param merge what the change is of, so that drawing a slider is one thing to take back, however long it takes */
function changed(
  { steps: before, selected, past }: State,
  after: readonly PictureStep[],
  merge?: string,
  select = selected,
): State {
  const deed = { before, after, merge, at: 0 };
  return { steps: after, selected: among(after, select), past: Past.add(past, deed, joinSwaps) };
}

function travelled(state: State, way: "back" | "forth"): State {
  const went = Past[way](state.past);
  if (!went) return state;
  const steps = way === "back" ? went.deed.before : went.deed.after;
  return { steps, selected: among(steps, state.selected), past: Past.rest(went.past) };
}

/** Which parts of a step differ, so that two sliders are two things to take back. */
function changedParts(before: PictureStep | undefined, after: PictureStep): string {
  const old = new Map<string, unknown>(Object.entries(before ?? {}));
  return Object.entries(after)
    .filter(([key, value]) => old.get(key) !== value)
    .map(([key]) => key)
    .join(" ");
}

export function reduceSteps(state: State, action: Action): State {
  const { steps } = state;
  switch (action.do) {
    case "change":
      return changed(
        state,
        steps.map((step) => (step.id === action.step.id ? action.step : step)),
        `${action.step.id} ${changedParts(
          steps.find(({ id }) => id === action.step.id),
          action.step,
        )}`,
      );
    case "add": {
      const others = steps.filter(
        (step) => !doesNothing(step) && !(step.kind === action.step.kind && SINGLE.includes(step.kind)),
      );
      return changed(state, [...others, action.step], undefined, action.step.id);
    }
    case "remove":
      return changed(
        state,
        steps.filter(({ id }) => id !== action.id),
      );
    case "move": {
      const from = steps.findIndex(({ id }) => id === action.id);
      const to = from + action.by;
      if (from < 0 || to < 0 || to >= steps.length) return state;
      const next = [...steps];
      next.splice(to, 0, ...next.splice(from, 1));
      return changed(state, next);
    }
    case "all":
      return changed(state, action.steps);
    case "start":
      return { steps: action.steps, selected: null, past: Past.empty };
    case "select": {
      // What was begun and does nothing does not stay in the list.
      const left = steps.filter((step) => step.id === action.id || !doesNothing(step));
      return { steps: left, selected: action.id, past: Past.rest(state.past) };
    }
    case "rest":
      return { ...state, past: Past.rest(state.past) };
    case "undo":
      return travelled(state, "back");
    case "redo":
      return travelled(state, "forth");
  }
}

const keyOf = (picture: string) => `septima picture ${picture}`;

/** Steps that were not saved, kept in the browser with the version they were made on. */
function keptSteps(picture: string, version: string): PictureStep[] | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(picture)) ?? "null") as {
      version: string;
      steps: unknown;
    } | null;
    if (kept?.version !== version) return null;
    return PictureStepsSchema.parse(kept.steps);
  } catch {
    return null;
  }
}

export function forgetSteps(picture: string): void {
  localStorage.removeItem(keyOf(picture));
}

/** The steps of a picture while they are changed, with the way back. What is not saved is kept in the browser. */
export function useSteps(picture: string, version: string, saved: readonly PictureStep[]) {
  const [state, dispatch] = useReducer(
    reduceSteps,
    null,
    (): State => ({
      steps: keptSteps(picture, version) ?? saved,
      selected: null,
      past: Past.empty,
    }),
  );
  const done = state.steps.filter((step) => !doesNothing(step));
  const dirty = JSON.stringify(done) !== JSON.stringify(saved);
  const text = dirty ? JSON.stringify({ version, steps: done }) : null;
  useEffect(() => {
    try {
      if (text === null) forgetSteps(picture);
      else localStorage.setItem(keyOf(picture), text);
    } catch {
      // With no room left in the browser they are kept by saving only.
    }
  }, [picture, text]);
  return {
    ...state,
    /** Those that do something. */
    done,
    dirty,
    dispatch,
    add: useCallback(
      (kind: StepKind) => dispatch({ do: "add", step: newStep(kind, crypto.randomUUID().slice(0, 8)) }),
      [],
    ),
    change: useCallback((step: PictureStep) => dispatch({ do: "change", step }), []),
  };
}
