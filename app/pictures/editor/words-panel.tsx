import { AlignCenter, AlignLeft, AlignRight } from "lucide-react";
import { SHOWN, toPx } from "~/core/pictures";
import { Choose } from "../../ui/choose";
import { Choice, Line, Problem } from "../../ui/form";
import { NumberField } from "../../ui/number-field";
import { Colour, type Panel } from "./step-kit";

const PLACES = [
  { y: 0.12, name: "top" },
  { y: 0.5, name: "middle" },
  { y: 0.88, name: "bottom" },
] as const;
const SIDES = [
  { x: 0.06, align: "left" },
  { x: 0.5, align: "center" },
  { x: 0.94, align: "right" },
] as const;

export function Words({ step, set, writing, outline, contrast }: Panel<"words">) {
  const enough = toPx(step.size) >= 24 ? 3 : 4.5;
  return (
    <>
      <label className="block">
        <span className="sr-only">Words</span>
        <textarea
          className="field"
          rows={2}
          maxLength={400}
          value={step.text}
          onChange={(event) => set({ text: event.target.value })}
        />
      </label>
      {outline && outline.missing.length > 0 && (
        <Problem mild>
          {step.font} has no {outline.missing.slice(0, 6).join(" ")}. Choose another type, or other words.
        </Problem>
      )}
      <Line label="Type">
        <Choose
          value={step.font}
          options={writing.fonts.map(({ family, aside }) => ({ value: family, label: family, aside }))}
          onChange={(font) => set({ font })}
        />
      </Line>
      <Line label="Weight">
        <NumberField min={100} max={900} value={step.weight} onChange={(weight) => set({ weight })} />
      </Line>
      <Line label="Size">
        <NumberField min={6} max={300} value={toPx(step.size)} onChange={(px) => set({ size: px / SHOWN })} />
      </Line>
      <p className="text-xs text-ink-soft">px when it is shown {SHOWN} px wide.</p>
      <div className="flex items-start gap-4">
        <div role="group" aria-label="Place" className="grid grid-cols-3 gap-1">
          {PLACES.flatMap(({ y, name }) =>
            SIDES.map(({ x, align }) => (
              <button
                key={`${name} ${align}`}
                type="button"
                aria-label={`${name}, ${align}`}
                aria-pressed={step.x === x && step.y === y && step.align === align}
                onClick={() => set({ x, y, align })}
                className="grid size-6 place-items-center rounded-sm border hover:border-ink-soft aria-pressed:bg-[#e9e7ec]"
              >
                <span className="size-1.5 rounded-full bg-ink-soft" />
              </button>
            )),
          )}
        </div>
        <div className="grow">
          <Choice
            label="Lines"
            value={step.align}
            options={[
              { value: "left", label: "Left", icon: <AlignLeft className="size-4" aria-hidden /> },
              { value: "center", label: "Centre", icon: <AlignCenter className="size-4" aria-hidden /> },
              { value: "right", label: "Right", icon: <AlignRight className="size-4" aria-hidden /> },
            ]}
            onChange={(align) => set({ align })}
          />
        </div>
      </div>
      <Colour
        label="Colour"
        value={step.color}
        colours={writing.colours}
        onChange={(color) => set({ color })}
      />
      <Choice
        label="Behind them"
        value={step.behind}
        options={[
          { value: "nothing", label: "Nothing" },
          { value: "shadow", label: "Shadow" },
          { value: "strip", label: "Strip" },
        ]}
        onChange={(behind) => set({ behind })}
      />
      {step.behind === "strip" && (
        <Colour
          label="Strip"
          value={step.strip}
          colours={writing.colours}
          onChange={(strip) => set({ strip })}
        />
      )}
      {contrast !== null && contrast < enough && (
        <Problem mild>
          {contrast.toFixed(1)} : 1 on what is behind them; {enough} : 1 can be read. Another colour, larger
          words or a strip would carry it.
        </Problem>
      )}
      <p className="text-xs text-ink-soft">
        Words in a picture are not read aloud and not found by search. Say them in the alternative text too.
      </p>
    </>
  );
}
