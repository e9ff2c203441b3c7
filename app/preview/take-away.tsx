import { Download, FileImage, FileText, LayoutGrid } from "lucide-react";
import { useState } from "react";
import { Button } from "../ui/button";
import { Menu } from "../ui/floating";
import { useNotify } from "../ui/notices";
import { takeFile } from "../ui/take-file";

/** What is looked at as a file: a picture, a PDF; or all editions at once. */
export function TakeAway({ campaign, view }: { campaign: string; view: Readonly<Record<string, string>> }) {
  const notify = useNotify();
  const [busy, setBusy] = useState(false);
  const take = async (form: "png" | "pdf" | "sheet") => {
    setBusy(true);
    const problem = await takeFile(
      `/campaigns/${campaign}/rendered/${form}?${new URLSearchParams(form === "sheet" ? {} : view)}`,
    );
    setBusy(false);
    if (problem !== null) notify({ text: problem, bad: true });
  };
  return (
    <Menu
      button={
        <Button busy={busy}>
          <Download className="size-4" aria-hidden /> {busy ? "Making the file…" : "Take away"}
        </Button>
      }
      parts={[
        {
          label: "This view",
          entries: [
            { label: "As a picture (PNG)", icon: FileImage, run: () => void take("png") },
            { label: "As a PDF", icon: FileText, run: () => void take("pdf") },
          ],
        },
        {
          label: "All editions",
          entries: [{ label: "On the pages of one PDF", icon: LayoutGrid, run: () => void take("sheet") }],
        },
      ]}
    />
  );
}
