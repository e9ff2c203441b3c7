import { lazy, Suspense } from "react";
import { useWriting, useWritten } from "./writing";

const CursorMenu = lazy(() => import("./cursor-menu"));
const ChipPopover = lazy(() => import("./chip-popover"));

/** What opens over words that are being written: the menu at the cursor, and the tag or either/or that was pressed. */
export function OverWords() {
  const writing = useWriting();
  const typing = useWritten(({ typed }) => typed !== null);
  const chip = useWritten((state) => state.chip);
  return (
    <>
      <Suspense>{typing && <CursorMenu />}</Suspense>
      <Suspense>
        {chip && <ChipPopover chip={chip} onChip={(next) => writing.state.setState({ chip: next })} />}
      </Suspense>
    </>
  );
}
