import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import { SEASON_OR_ANY } from "../templates/seasons";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Dialog } from "../ui/dialog";
import { Input, Labelled, Problem } from "../ui/form";
import type { Line } from "./line";

/** What a campaign is called and filed under, to find it again. */
export function FilingDialog({ line, onClose }: { line: Line; onClose(): void }) {
  const fetcher = useFetcher<{ done: string | null; problem: string | null }>();
  const [season, setSeason] = useState(line.season || "none");
  const { data: answer } = fetcher;
  useEffect(() => {
    if (answer?.done === "file") onClose();
  }, [answer, onClose]);
  return (
    <Dialog open onClose={onClose} title="Name and labels">
      <fetcher.Form method="post" className="space-y-4">
        <input type="hidden" name="intent" value="file" />
        <input type="hidden" name="id" value={line.id} />
        <Labelled label="Name">
          <Input name="name" defaultValue={line.name} required />
        </Labelled>
        <Labelled label="Series" hint="Campaigns of a series are found and compared together.">
          <Input name="series" defaultValue={line.series} />
        </Labelled>
        <div className="grid grid-cols-2 gap-3">
          <Labelled label="Labels" hint="Parted by commas.">
            <Input name="labels" defaultValue={line.labels.join(", ")} />
          </Labelled>
          <Labelled label="Season">
            <Choose name="season" value={season} onChange={setSeason} options={SEASON_OR_ANY} />
          </Labelled>
        </div>
        {answer?.problem && <Problem>{answer.problem}</Problem>}
        <div className="flex justify-end gap-2">
          <Button type="submit" kind="primary" busy={fetcher.state !== "idle"}>
            Keep
          </Button>
        </div>
      </fetcher.Form>
    </Dialog>
  );
}
