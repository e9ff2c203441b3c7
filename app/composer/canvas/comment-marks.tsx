import { MessageSquare } from "lucide-react";
import { findNode } from "~/core/email";
import { useTalks } from "../../review/use-talks";
import { counted } from "../../ui/time";
import { nodeLabel } from "../state/nodes";
import { useComposer } from "../state/store";
import { useView } from "./context";

/** Where something is said of a block: a mark beside it, which selects it and so shows what. */
export function CommentMarks() {
  const view = useView();
  const { talks } = useTalks();
  const email = useComposer((state) => state.resting);
  const select = useComposer((state) => state.select);
  useComposer((state) => state.drawn);
  const many = new Map<string, number>();
  for (const { block, resolved } of talks)
    if (block !== null && !resolved) many.set(block, (many.get(block) ?? 0) + 1);
  return [...many].map(([id, comments]) => {
    const box = view.drawing && view.box(id);
    const found = box && findNode(email, id);
    if (!box || !found) return null;
    const words = `${counted(comments, "comment")} on ${nodeLabel(found)}`;
    return (
      <button
        key={id}
        type="button"
        data-testid="comment-mark"
        aria-label={words}
        title={words}
        className="pointer-events-auto absolute z-10 flex h-5 -translate-x-1/2 items-center gap-1 rounded-full border border-mulberry bg-mulberry px-1.5 text-xs font-semibold text-white shadow-sm"
        style={{ top: box.top + 4, left: box.right }}
        onClick={() => select(id)}
      >
        <MessageSquare className="size-3" aria-hidden />
        {comments}
      </button>
    );
  });
}
