import { FileUp } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Intake } from "~/server/intake/intake";
import { give } from "../../../requests";
import { Button } from "../../../ui/button";
import { Dialog } from "../../../ui/dialog";
import { Choice, Problem } from "../../../ui/form";
import { useComposer } from "../../state/store";
import { Found } from "./found";

type Kind = "text" | "markdown" | "html";

/**
 * Brings writing, emails and designs in: by file or by pasting. What was read is shown with what cannot be kept,
 * and nothing changes before a choice is made.
 */
export default function IntakeDialog({ given, onDone }: { given: File | string | null; onDone(): void }) {
  const open = useComposer((state) => state.dialog === "intake");
  const set = useComposer((state) => state.set);
  const [kind, setKind] = useState<Kind>("text");
  const [text, setText] = useState("");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [found, setFound] = useState<Intake | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const read = useCallback(async (what: File | { kind: Kind; text: string }) => {
    setBusy(true);
    setProblem(null);
    const body = new FormData();
    if (what instanceof File) body.append("file", what);
    else {
      body.append("kind", what.kind);
      body.append("text", what.text);
    }
    const answer = await give("/intake", body);
    setBusy(false);
    setProblem(answer.problem);
    setFound(answer.result);
  }, []);
  useEffect(() => {
    if (given === null) return;
    if (typeof given === "string") {
      setKind("html");
      setText(given);
      void read({ kind: "html", text: given });
    } else void read(given);
  }, [given, read]);
  const close = () => {
    setFound(null);
    setProblem(null);
    setText("");
    set({ dialog: null });
    onDone();
  };
  return (
    <Dialog
      open={open}
      onClose={close}
      title="Bring in"
      about="Text, Markdown, HTML, a document, an email or a design of Septima."
      wide
    >
      {found ? (
        <Found found={found} onBack={() => setFound(null)} onDone={close} />
      ) : (
        <form
          className="space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            void read({ kind, text });
          }}
          onDragOver={(event) => event.preventDefault()}
          onDrop={(event) => {
            event.preventDefault();
            const [file] = event.dataTransfer.files;
            if (file) void read(file);
          }}
        >
          <div className="flex items-center gap-3">
            <input
              ref={input}
              type="file"
              accept=".txt,.md,.markdown,.html,.htm,.zip,.eml,.docx,.json"
              className="sr-only"
              aria-label="File to bring in"
              tabIndex={-1}
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (file) void read(file);
              }}
            />
            <Button onClick={() => input.current?.click()} disabled={busy}>
              <FileUp className="size-4" aria-hidden /> Choose a file
            </Button>
            <span className="text-ink-soft">
              .txt, .md, .html, .zip, .eml, .docx or .json, or paste below
            </span>
          </div>
          <div className="w-72">
            <Choice
              label="What is pasted"
              value={kind}
              onChange={setKind}
              options={[
                { value: "text", label: "Text" },
                { value: "markdown", label: "Markdown" },
                { value: "html", label: "HTML" },
              ]}
            />
          </div>
          <textarea
            aria-label="Writing to bring in"
            className={`field h-56 py-2 ${kind === "text" ? "" : "font-mono text-xs/5"}`}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          {problem && <Problem>{problem}</Problem>}
          <div className="flex justify-end">
            <Button type="submit" kind="primary" disabled={busy || text.trim() === ""}>
              {busy ? "Reading…" : "Read it"}
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
