import { AlignCenter, AlignLeft, AlignRight } from "lucide-react";
import { Choice, Line } from "../../ui/form";

type Align = "left" | "center" | "right";

export function AlignLine({ value, onChange }: { value: Align | undefined; onChange(value: Align): void }) {
  return (
    <Line label="Aligned">
      {() => (
        <Choice
          label="Aligned"
          value={value ?? "left"}
          onChange={onChange}
          options={[
            { value: "left", label: "Left", icon: <AlignLeft className="size-4" /> },
            { value: "center", label: "Centre", icon: <AlignCenter className="size-4" /> },
            { value: "right", label: "Right", icon: <AlignRight className="size-4" /> },
          ]}
        />
      )}
    </Line>
  );
}

type Valign = "top" | "middle" | "bottom";

/** At which height something stands. */
export function ValignLine({
  label,
  value,
  onChange,
}: {
  label: string;
  value: Valign;
  onChange(value: Valign): void;
}) {
  return (
    <Line label="Stand at">
      {() => (
        <Choice
          label={label}
          value={value}
          onChange={onChange}
          options={[
            { value: "top", label: "Top" },
            { value: "middle", label: "Middle" },
            { value: "bottom", label: "Bottom" },
          ]}
        />
      )}
    </Line>
  );
}
