/** What reviewers and colleagues say, beside the block that they say it of. */
import { MessageSquarePlus } from "lucide-react";
import { useState } from "react";
import { findNode } from "~/core/email";
import { SayForm, TalkCard } from "../../review/talk-card";
import { useTalks } from "../../review/use-talks";
import { Button } from "../../ui/button";
import { count } from "../../ui/time";
import { Part } from "../controls/part";
import { nodeLabel } from "../state/nodes";
import { useComposer } from "../state/store";

/** The open talks of one block, and a new one. */
export function BlockComments({ block }: { block: string }) {
  const { talks, begin } = useTalks();
  const reader = useComposer((state) => state.reader.id);
  const [writing, setWriting] = useState(false);
  const own = talks.filter((talk) => talk.block === block && !talk.resolved);
  if (own.length === 0 && !writing)
    return (
      <div className="border-b px-2 py-1">
        <Button kind="quiet" onClick={() => setWriting(true)}>
          <MessageSquarePlus className="size-4" aria-hidden /> Comment on it
        </Button>
      </div>
    );
  return (
    <Part title={own.length === 0 ? "Comments" : `Comments (${count(own.length)})`}>
      {own.map((talk) => (
        <TalkCard key={talk.id} talk={talk} where="Here" />
      ))}
      {writing ? (
        <SayForm
          label="Your comment"
          button="Comment"
          save={(words) => begin({ block, quote: null }, words, reader || null)}
          onDone={() => setWriting(false)}
          onLeave={() => setWriting(false)}
        />
      ) : (
        <Button kind="quiet" onClick={() => setWriting(true)}>
          <MessageSquarePlus className="size-4" aria-hidden /> Another comment
        </Button>
      )}
    </Part>
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
