import type { TypedBlock } from "~/core/blocks";
import { SOURCE_KINDS } from "~/core/items";
import { counted } from "../../../ui/time";
import { useComposer } from "../../state/store";

/** How many articles there are to show. */
export function ArticlesThere({ block }: { block: TypedBlock<"articles"> }) {
  const source = useComposer((state) => state.facts.sources.find(({ id }) => id === block.source));
  return (
    source && (
      <p className="text-xs text-ink-soft">
        “{source.name}” has {counted(source.held, SOURCE_KINDS[source.kind].item)}.
      </p>
    )
  );
}
