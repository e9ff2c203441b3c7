/** What reviewers and colleagues say, beside the block that they say it of. */
import { MessageSquarePlus } from "lucide-react";
import { type ReactNode, useState } from "react";
import { findNode } from "~/core/email";
import { SayForm, TalkCard } from "../../review/talk-card";
import { useTalks } from "../../review/use-talks";
import { Button } from "../../ui/button";
import { count } from "../../ui/time";
import { Part } from "../controls/part";
import { nodeLabel } from "../state/nodes";
import { useComposer } from "../state/store";

/**
 * The open talks of one block, and a new one. What was said stands before all that can be changed, the offer to say something
 * after it.
 */
export function BlockComments({ block, children }: { block: string; children: ReactNode }) {
  const { talks } = useTalks();
  const own = talks.filter((talk) => talk.block === block && !talk.resolved);
  return (
    <>
      {own.length > 0 && (
        <Part title={`Comments (${count(own.length)})`}>
          {own.map((talk) => (
            <TalkCard key={talk.id} talk={talk} where={null} />
          ))}
          <NewComment block={block} label="Another comment" />
        </Part>
      )}
      {children}
      {own.length === 0 && (
        <Part title="Comments">
          <NewComment block={block} label="Comment on it" />
        </Part>
      )}
    </>
  );
}

function NewComment({ block, label }: { block: string; label: string }) {
  const { begin } = useTalks();
  const reader = useComposer((state) => state.reader.id);
  const [writing, setWriting] = useState(false);
  if (!writing)
    return (
      <Button kind="quiet" className="-ml-3" onClick={() => setWriting(true)}>
        <MessageSquarePlus className="size-4" aria-hidden /> {label}
      </Button>
    );
  return (
    <SayForm
      label="Your comment"
      button="Comment"
      save={(words) => begin({ block, quote: null }, words, reader || null)}
      onDone={() => setWriting(false)}
      onLeave={() => setWriting(false)}
    />
  );
}

/** All open talks, each with the way to its block. */
export function AllComments() {
  const { talks } = useTalks();
  const email = useComposer((state) => state.resting);
  const select = useComposer((state) => state.select);
  const open = talks.filter(({ resolved }) => !resolved);
  if (open.length === 0) return null;
  return (
    <Part title={`Comments (${count(open.length)})`}>
      {open.map((talk) => {
        const { block } = talk;
        const found = block === null ? null : findNode(email, block);
        const where =
          block === null ? "The email as a whole" : found ? nodeLabel(found) : "A block that is gone";
        return (
          <TalkCard
            key={talk.id}
            talk={talk}
            where={where}
            onShow={found ? () => select(found.node.id) : undefined}
          />
        );
      })}
    </Part>
  );
}
