import { Trash2 } from "lucide-react";
import { useState } from "react";
import { useFetcher } from "react-router";
import { type Manner, STEPS, USUAL_MANNERS } from "~/core/sending";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Dialog } from "../ui/dialog";
import { Input, Labelled, Problem } from "../ui/form";

const AT: Record<(typeof STEPS)[number], string> = {
  greeting: "whoever connects",
  sender: "the sender",
  reader: "the reader’s address",
  message: "the end of the message",
};

/** What a mailbox does, in words. */
function mannerWords(does: Manner["does"]): string {
  switch (does.kind) {
    case "says":
      return `says “${does.reply}” to ${AT[does.at]}${does.times === null ? "" : `, ${does.times === 1 ? "once" : `${does.times} times`}`}`;
    case "closes":
      return `cuts the connection at ${AT[does.at]}`;
    case "slow":
      return `takes ${does.seconds} s`;
    case "returns":
      return `takes it, and sends it back: “${does.words}”`;
    case "complains":
      return "takes it, and calls it spam";
    case "answers":
      return `takes it, and answers “${does.words}”`;
  }
}

/** So a reply of one's own is chosen among the usual manners. */
const OWN = "own";

/** How the mailboxes of the postroom behave: by address, by domain or all. */
export function Manners({
  manners,
  open,
  onClose,
}: {
  manners: readonly Manner[];
  open: boolean;
  onClose(): void;
}) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [who, setWho] = useState("");
  const [usual, setUsual] = useState("0");
  const [reply, setReply] = useState("421 4.3.2 Closing");
  const [at, setAt] = useState<(typeof STEPS)[number]>("reader");
  const behave = (next: readonly Manner[]) =>
    fetcher.submit(JSON.stringify({ intent: "behave", manners: next }), {
      method: "post",
      action: "/postroom",
      encType: "application/json",
    });
  const busy = fetcher.state !== "idle";
  const does: Manner["does"] =
    usual === OWN ? { kind: "says", at, reply, times: null } : USUAL_MANNERS[Number(usual)].does;
  return (
    <Dialog
      open={open}
      onClose={onClose}
      wide
      title="How mailboxes behave"
      about="The postroom takes whatever comes. To see what happens when the world does not, tell some mailboxes other manners."
    >
      <div className="space-y-4">
        {manners.length === 0 ? (
          <p className="text-ink-soft">All of them take what comes.</p>
        ) : (
          <ul className="divide-y rounded-md border">
            {manners.map((one, index) => (
              <li
                // biome-ignore lint/suspicious/noArrayIndexKey: two may be alike
                key={index}
                className="flex items-center gap-3 px-3 py-1.5"
              >
                <span className="min-w-0 grow break-words">
                  <strong>{one.who === "*" ? "Everybody" : one.who}</strong> {mannerWords(one.does)}
                </span>
                <IconButton
                  icon={Trash2}
                  label={`No more: ${one.who} ${mannerWords(one.does)}`}
                  onClick={() => behave(manners.filter((_, other) => other !== index))}
                />
              </li>
            ))}
          </ul>
        )}
        <form
          className="space-y-3 border-t pt-4"
          onSubmit={(event) => {
            event.preventDefault();
            behave([...manners, { who: who.trim(), does }]);
            setWho("");
          }}
        >
          <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
            <Labelled label="Whose mailbox" hint="An address, a domain as @mail.example, or * for all.">
              <Input
                spellCheck={false}
                placeholder="@mail.example"
                value={who}
                onChange={(event) => setWho(event.target.value)}
              />
            </Labelled>
            <Labelled label="What it does">
              <Choose
                value={usual}
                options={[
                  ...USUAL_MANNERS.map(({ name }, index) => ({ value: String(index), label: name })),
                  { value: OWN, label: "Says something of your own" },
                ]}
                onChange={setUsual}
              />
            </Labelled>
            {usual === OWN && (
              <>
                <Labelled label="What it says" hint="A code of 4xx or 5xx, and words.">
                  <Input value={reply} onChange={(event) => setReply(event.target.value)} />
                </Labelled>
                <Labelled label="To">
                  <Choose<(typeof STEPS)[number]>
                    value={at}
                    options={STEPS.map((value) => ({ value, label: AT[value] }))}
                    onChange={setAt}
                  />
                </Labelled>
              </>
            )}
          </div>
          {fetcher.data?.problem && !busy && <Problem>{fetcher.data.problem}</Problem>}
          <div className="flex justify-end gap-2">
            {manners.length > 0 && (
              <Button kind="quiet" busy={busy} onClick={() => behave([])}>
                Let all take what comes
              </Button>
            )}
            <Button type="submit" kind="primary" disabled={who.trim() === ""} busy={busy}>
              Teach it
            </Button>
          </div>
        </form>
      </div>
    </Dialog>
  );
}
