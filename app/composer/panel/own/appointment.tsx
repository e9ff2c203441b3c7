import type { AppointmentBlock } from "~/core/blocks";

export function AppointmentEnds({ block: { start, end } }: { block: AppointmentBlock }) {
  if (start === "" || end === "" || end >= start) return null;
  return (
    <p className="text-xs text-amber" role="status">
      It ends before it starts: an hour is taken instead.
    </p>
  );
}
