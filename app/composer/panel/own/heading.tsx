import type { HeadingBlock } from "~/core/blocks";
import { headingLevels } from "~/core/render";
import { useComposer } from "../../state/store";

/** Which level screen readers are told. */
export function HeadingTold({ block }: { block: HeadingBlock }) {
  const told = useComposer((state) =>
    (headingLevels(state.email).get(block.id) ?? []).map(({ level }) => level).join(" or "),
  );
  return (
    <p className="text-xs text-ink-soft">
      The level is the look. Screen readers are told level {told}
      {told.includes("or") && ", by what a reader gets above it"}.
    </p>
  );
}
