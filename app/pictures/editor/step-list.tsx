import {
  ChevronDown,
  ChevronUp,
  Crop,
  Feather,
  FlipHorizontal2,
  Focus,
  Frame,
  type LucideIcon,
  Pencil,
  RotateCw,
  Ruler,
  SlidersHorizontal,
  Sparkles,
  Trash2,
  Type,
} from "lucide-react";
import { type PictureStep, type StepKind, stepWords } from "~/core/pictures";
import { IconButton } from "../../ui/button";
import { STEP_TITLES } from "./step-panel";
import type { useSteps } from "./use-steps";

export const ICONS: Record<StepKind, LucideIcon> = {
  crop: Crop,
  rotate: RotateCw,
  flip: FlipHorizontal2,
  resize: Ruler,
  light: SlidersHorizontal,
  tone: Sparkles,
  words: Type,
  pen: Pencil,
  frame: Frame,
  focus: Focus,
  lighter: Feather,
};
export const ADDED: readonly [StepKind, string][] = [
  ["crop", "Crop"],
  ["rotate", "Rotate"],
  ["flip", "Flip"],
  ["light", "Light"],
  ["tone", "Tone"],
  ["words", "Words"],
  ["pen", "Pen"],
  ["frame", "Frame"],
  ["focus", "Focus"],
  ["resize", "Size"],
  ["lighter", "Lighter"],
];

export function StepList({
  steps,
  selected,
  onSelect,
  dispatch,
}: {
  steps: readonly PictureStep[];
  selected: string | null;
  onSelect(id: string | null): void;
  dispatch: ReturnType<typeof useSteps>["dispatch"];
}) {
  return (
    <>
      <h2 className="mb-1.5 font-semibold">Steps</h2>
      {steps.length === 0 && <p className="text-ink-soft">None yet.</p>}
      <ol className="space-y-0.5">
        {steps.map((step, index) => {
          const Icon = ICONS[step.kind];
          const open = step.id === selected;
          return (
            <li key={step.id} className={open ? "rounded-md bg-mulberry-wash" : undefined}>
              <button
                type="button"
                aria-pressed={open}
                onClick={() => onSelect(open ? null : step.id)}
                className="flex min-h-8 w-full items-center gap-2 rounded-md px-2 py-1 text-left hover:bg-black/4 aria-pressed:font-semibold"
              >
                <Icon className="size-4 shrink-0" strokeWidth={1.75} aria-hidden />
                <span className="min-w-0 truncate">{stepWords(step)}</span>
              </button>
              {open && (
                <div className="flex px-1 pb-1">
                  <IconButton
                    icon={ChevronUp}
                    label={`Earlier: ${STEP_TITLES[step.kind]}`}
                    disabled={index === 0}
                    onClick={() => dispatch({ do: "move", id: step.id, by: -1 })}
                  />
                  <IconButton
                    icon={ChevronDown}
                    label={`Later: ${STEP_TITLES[step.kind]}`}
                    disabled={index === steps.length - 1}
                    onClick={() => dispatch({ do: "move", id: step.id, by: 1 })}
                  />
                  <IconButton
                    icon={Trash2}
                    label="Take this step back"
                    className="ml-auto"
                    onClick={() => dispatch({ do: "remove", id: step.id })}
                  />
                </div>
              )}
            </li>
          );
        })}
      </ol>
    </>
  );
}
