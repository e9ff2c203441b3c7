import { useEffect, useRef, useState } from "react";
import { Form, Link, useNavigate, useNavigation } from "react-router";
import { WhoLine } from "../assistant/who-line";
import { tell } from "../requests";
import { Button } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Area, Input, Labelled, Problem } from "../ui/form";
import { useNotify } from "../ui/notices";

/** From what else a campaign can start than from a layout. */
const BRIEF = {
  id: "brief",
  name: "From a brief",
  about: "A few lines become a first draft, by the assistant",
};

/** A new campaign: its name, and what to start from. */
export function StartDialog({
  open,
  onClose,
  layouts,
}: {
  open: boolean;
  onClose(): void;
  layouts: readonly { id: string; name: string; about: string }[];
}) {
  const navigation = useNavigation();
  const [layout, setLayout] = useState(layouts[0].id);
  const [name, setName] = useState("");
  const brief = useBrief(name, onClose);
  const briefed = layout === BRIEF.id;
  return (
    <Dialog
      open={open}
      onClose={() => {
        brief.cancel();
        onClose();
      }}
      title="New campaign"
      about="Give it a name for yourself; readers never see it."
      wide
    >
      <Form
        method="post"
        className="space-y-4"
        onSubmit={(event) => {
          if (!briefed) return;
          event.preventDefault();
          brief.write();
        }}
      >
        <input type="hidden" name="intent" value="start" />
        <Labelled label="Name">
          <Input
            name="name"
            placeholder="March letter"
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Labelled>
        <fieldset>
          <legend className="mb-1 font-medium">Start from</legend>
          <div className="grid grid-cols-6 gap-2.5 max-md:grid-cols-2">
            {[...layouts, BRIEF].map((one) => (
              <label
                key={one.id}
                className="cursor-pointer rounded-lg border p-2.5 has-checked:border-mulberry has-checked:bg-mulberry-wash has-focus-visible:outline-2 has-focus-visible:outline-mulberry"
              >
                <input
                  type="radio"
                  name="layout"
                  value={one.id}
                  className="sr-only"
                  checked={layout === one.id}
                  onChange={() => setLayout(one.id)}
                />
                <LayoutSketch id={one.id} />
                <span className="mt-2 block font-semibold">{one.name}</span>
                <span className="text-ink-soft">{one.about}</span>
              </label>
            ))}
          </div>
        </fieldset>
        {briefed && (
          <div className="space-y-2">
            <Labelled label="What should it say, and to whom?">
              <Area
                rows={7}
                maxLength={8000}
                className="w-full"
                placeholder={
                  "Our open days in May, for people who came last year\n- workshops on both mornings\n- plants at half price\nA picture of the glasshouse\nBook a place: https://…"
                }
                value={brief.text}
                onChange={(event) => brief.setText(event.target.value)}
              />
            </Labelled>
            <WhoLine />
            {brief.problem !== null && <Problem>{brief.problem}</Problem>}
          </div>
        )}
        <div className="flex flex-wrap items-center justify-between gap-3">
          <Link to="/templates" className="underline underline-offset-2 hover:text-mulberry">
            Or start from a finished template
          </Link>
          {brief.writing ? (
            <span className="flex items-center gap-2" role="status">
              Writing a first draft…
              <Button onClick={brief.cancel}>Cancel</Button>
            </span>
          ) : (
            <Button
              type="submit"
              kind="primary"
              disabled={navigation.state !== "idle" || (briefed && brief.text.trim() === "")}
            >
              {briefed ? "Write a first draft" : "Start composing"}
            </Button>
          )}
        </div>
      </Form>
    </Dialog>
  );
}

/** A brief on its way to a first draft: what is written stays until there is one. */
function useBrief(name: string, onDone: () => void) {
  const navigate = useNavigate();
  const notify = useNotify();
  const [text, setText] = useState("");
  const [writing, setWriting] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);
  const write = async () => {
    const controller = new AbortController();
    running.current = controller;
    setWriting(true);
    setProblem(null);
    const answer = await tell(
      "/assist",
      { intent: "draft", name: name.trim() || "First draft", brief: text },
      { signal: controller.signal },
    );
    if (controller.signal.aborted) return;
    setWriting(false);
    if (answer.problem !== null) {
      setProblem(answer.problem);
      return;
    }
    const { id, dropped } = answer.result;
    await navigate(`/campaigns/${id}/compose`);
    onDone();
    setText("");
    if (dropped.length > 0)
      notify({
        text: `The draft is here. Of what the assistant sent, this was left out: ${dropped.join("; ")}.`,
      });
  };
  const cancel = () => {
    running.current?.abort();
    setWriting(false);
  };
  return { text, setText, writing, problem, write: () => void write(), cancel };
}

function LayoutSketch({ id }: { id: string }) {
  const bar = (width: string) => <div className="h-1.5 rounded-sm bg-[#cfccd6]" style={{ width }} />;
  return (
    <div className="flex h-24 flex-col gap-2 rounded border bg-white p-3" aria-hidden>
      {id === "news" && <div className="-mx-3 -mt-3 h-7 bg-[#dedbe4]" />}
      {id === "text" && <div className="font-mono text-[11px]/4 text-ink-soft">Dear @…</div>}
      {id === "brief" && <div className="text-[11px]/4 text-ink-soft">“Open days in May, for…”</div>}
      {id !== "empty" && bar("70%")}
      {id !== "empty" && bar("100%")}
      {id === "letter" && bar("90%")}
      {id === "letter" && <div className="mt-1 h-3.5 w-12 rounded bg-[#b9b4c2]" />}
      {(id === "news" || id === "sample") && (
        <div className="flex gap-2">
          {["one", "two", ...(id === "sample" ? ["three"] : [])].map((column) => (
            <div key={column} className="h-5 grow rounded bg-[#e6e4ea]" />
          ))}
        </div>
      )}
      <div className="mt-auto h-1 w-1/2 self-center rounded bg-[#e0dee5]" />
    </div>
  );
}
