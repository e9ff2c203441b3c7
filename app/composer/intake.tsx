import { FileUp } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { createBlock } from "~/core/blocks";
import { commands } from "~/core/compose";
import type { Block } from "~/core/email";
import type { Intake } from "~/server/intake/intake";
import { Button } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Choice, Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { counted } from "../ui/time";
import { useActions } from "./actions";
import { newId, useComposer, useComposerStore } from "./store";

type Kind = "text" | "markdown" | "html";

async function ask(body: FormData): Promise<{ result: Intake | null; problem: string | null }> {
  try {
    const response = await fetch("/intake", { method: "POST", body });
    return (await response.json()) as { result: Intake | null; problem: string | null };
  } catch {
    return { result: null, problem: "The server is not there. Try again when the connection is back." };
  }
}

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
    const answer = await ask(body);
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
              accept=".txt,.md,.markdown,.html,.htm,.eml,.docx,.json"
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
            <span className="text-ink-soft">.txt, .md, .html, .eml, .docx or .json, or paste below</span>
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

function Found({ found, onBack, onDone }: { found: Intake; onBack(): void; onDone(): void }) {
  const store = useComposerStore();
  const actions = useActions();
  const notify = useNotify();
  const { blocks, whole, lost, email, pictures, kind } = found;
  const add = (added: readonly Block[], label: string) => {
    const state = store.getState();
    if (pictures.length > 0) state.set({ pictures: [...pictures, ...state.pictures] });
    if (actions.addBlocks(added, label))
      notify({ text: `${counted(added.length, "block")} came in. Undo takes them out.` });
    onDone();
  };
  const replace = () => {
    if (!email) return;
    const state = store.getState();
    state.edit(null);
    state.select(null);
    if (state.apply(commands.replaceDesign(email, newId), "Bringing a design in"))
      notify({ text: "The design took the place of the one before. Undo brings that back." });
    onDone();
  };
  const summary = new Map<string, number>();
  for (const block of blocks) summary.set(block.type, (summary.get(block.type) ?? 0) + 1);
  return (
    <div className="space-y-4">
      <p>
        This is {kind}
        {blocks.length > 0 && (
          <>
            {" "}
            with {counted(blocks.length, "block")}:{" "}
            {[...summary].map(([type, count]) => `${count} × ${type}`).join(", ")}
          </>
        )}
        .
      </p>
      {blocks.length === 0 && !email && whole === null && (
        <Problem mild>Nothing in it can become a block: it holds no words and no pictures.</Problem>
      )}
      <Lost
        title={whole === null ? "Could not be kept" : "Taken apart, these are not kept"}
        what={lost.apart}
      />
      {whole !== null && <Lost title="Kept whole, these are not kept" what={lost.whole} />}
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={onBack}>
          Back
        </Button>
        {whole !== null && (
          <Button
            onClick={() => add([{ ...createBlock("code", newId()), html: whole }], "Keeping an email whole")}
          >
            Keep it whole in a code block
          </Button>
        )}
        {email ? (
          <Button kind="primary" onClick={replace}>
            Replace this design
          </Button>
        ) : (
          blocks.length > 0 && (
            <Button kind="primary" onClick={() => add(blocks, "Bringing writing in")}>
              {whole === null ? `Add ${counted(blocks.length, "block")}` : "Take it apart into blocks"}
            </Button>
          )
        )}
      </div>
    </div>
  );
}

function Lost({ title, what }: { title: string; what: readonly string[] }) {
  if (what.length === 0) return null;
  return (
    <div className="rounded-md bg-amber-wash px-3 py-2 text-amber">
      <p className="font-medium">{title}:</p>
      <ul className="mt-1 list-disc pl-5">
        {what.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </div>
  );
}
