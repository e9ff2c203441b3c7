import { useState } from "react";
import type { Theme } from "~/core/email";
import type { Use } from "~/server/mentions";
import { tell } from "../../requests";
import { Button } from "../../ui/button";
import { Problem } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { Switch } from "../../ui/switch";
import { counted } from "../../ui/time";
import { Part } from "../controls/part";

/** What else could take the theme as it is now. */
export function ThemeOffer({ theme, uses, onClose }: { theme: Theme; uses: Use[]; onClose(): void }) {
  const notify = useNotify();
  const [taken, setTaken] = useState<ReadonlySet<string>>(new Set(uses.map(({ id }) => id)));
  const [problem, setProblem] = useState<string | null>(null);
  const take = async () => {
    const answer = await tell("/themes", {
      intent: "take",
      id: theme.id,
      designs: [...taken],
    });
    if (answer.problem !== null) {
      setProblem(answer.problem);
      return;
    }
    notify({
      text: `${counted(answer.result.changed, "email")} now ${answer.result.changed === 1 ? "has" : "have"} “${theme.name}” as it is.`,
    });
    onClose();
  };
  return (
    <Part title="Who else gets it">
      <p className="text-ink-soft">
        {counted(uses.length, "unsent email")} {uses.length === 1 ? "uses" : "use"} “{theme.name}” as it was.
        What is scheduled or sent stays as it is.
      </p>
      <ul className="space-y-1.5">
        {uses.map(({ id, name, kind }) => (
          <li key={id}>
            <Switch
              checked={taken.has(id)}
              onChange={(on) => {
                const next = new Set(taken);
                if (on) next.add(id);
                else next.delete(id);
                setTaken(next);
              }}
            >
              {name} {kind !== "campaign" && <span className="text-ink-soft">({kind})</span>}
            </Switch>
          </li>
        ))}
      </ul>
      {problem && <Problem>{problem}</Problem>}
      <div className="flex gap-2">
        <Button kind="primary" disabled={taken.size === 0} onClick={() => void take()}>
          Update {taken.size}
        </Button>
        <Button onClick={onClose}>Leave them</Button>
      </div>
    </Part>
  );
}
