import { Copy, KeyRound } from "lucide-react";
import { useState } from "react";
import { useRevalidator } from "react-router";
import type { DoorKey, NewKey } from "~/server/door/keys";
import type { Purpose } from "~/server/door/shapes";
import { tell } from "../requests";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Input, Labelled, Problem } from "../ui/form";
import { Empty } from "../ui/page";
import { timeWords } from "../ui/time";

type PurposeWords = { name: Purpose; label: string; does: string };

const LIMITS = [
  { value: "60", label: "60 requests a minute" },
  { value: "600", label: "600 requests a minute" },
  { value: "6000", label: "6,000 requests a minute" },
];

/** The keys with which other systems come to the door: made, shown once, withdrawn. */
export function Keys({
  keys,
  purposes,
  origin,
  now,
}: {
  keys: readonly DoorKey[];
  purposes: readonly PurposeWords[];
  origin: string;
  now: number;
}) {
  const [made, setMade] = useState<{ name: string; secret: string } | null>(null);
  return (
    <>
      <section className="card space-y-3 p-5" aria-label="Door">
        <h2 className="text-[15px] font-semibold">A door for other systems</h2>
        <p className="text-ink-soft">
          A shop, a till or a booking system tells Septima what happens there: who bought and looked at what,
          who is new, what there is to sell. It sends batches to{" "}
          <code className="font-mono text-xs">{origin}/in/…</code>, each with a key.{" "}
          <a className="underline underline-offset-2 hover:text-mulberry" href="/in/openapi.json">
            The description (OpenAPI 3.1)
          </a>{" "}
          says what they hold.
        </p>
      </section>
      {made && <MadeKey {...made} onDone={() => setMade(null)} />}
      <NewKeyForm purposes={purposes} onMade={setMade} />
      <section className="card p-5" aria-label="Keys">
        <h2 className="mb-3 text-[15px] font-semibold">Keys</h2>
        {keys.length === 0 ? (
          <Empty title="No key yet">Without one nobody comes in.</Empty>
        ) : (
          <ul className="divide-y">
            {keys.map((key) => (
              <KeyLine key={key.id} one={key} purposes={purposes} now={now} />
            ))}
          </ul>
        )}
      </section>
    </>
  );
}

/** A key that was just made: told now, and never again. */
function MadeKey({ name, secret, onDone }: { name: string; secret: string; onDone(): void }) {
  const [copied, setCopied] = useState(false);
  return (
    <section className="card space-y-3 border-teal! p-5" aria-label="The new key">
      <h2 className="text-[15px] font-semibold">The key of “{name}”</h2>
      <p className="text-ink-soft">
        Copy it now: only a hash of it is kept, and it is shown nowhere again. It goes into the head of each
        request, as “Authorization: Bearer” and the key.
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <Input aria-label="Key" className="min-w-0 grow font-mono text-xs" readOnly value={secret} />
        <Button
          onClick={() =>
            void navigator.clipboard.writeText(secret).then(
              () => setCopied(true),
              () => setCopied(false),
            )
          }
        >
          <Copy className="size-4" aria-hidden /> {copied ? "Copied" : "Copy"}
        </Button>
        <Button kind="quiet" onClick={onDone}>
          I have it
        </Button>
      </div>
    </section>
  );
}

function NewKeyForm({
  purposes,
  onMade,
}: {
  purposes: readonly PurposeWords[];
  onMade(made: { name: string; secret: string }): void;
}) {
  const [name, setName] = useState("");
  const [may, setMay] = useState<readonly Purpose[]>([]);
  const [most, setMost] = useState("600");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const { revalidate } = useRevalidator();
  const make = async () => {
    setBusy(true);
    const { result, problem: why } = await tell("/settings/door/change", {
      intent: "make",
      name,
      may: [...may],
      most: Number(most) as NewKey["most"],
    });
    setBusy(false);
    setProblem(why);
    if (!result?.secret) return;
    onMade({ name: name.trim(), secret: result.secret });
    setName("");
    setMay([]);
    void revalidate();
  };
  return (
    <section className="card space-y-4 p-5" aria-label="New key">
      <h2 className="text-[15px] font-semibold">New key</h2>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <Labelled label="What it is for">
          <Input
            placeholder="Our shop"
            maxLength={100}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Labelled>
        <fieldset>
          <legend className="mb-1.5 font-medium">It may send</legend>
          <ul className="grid grid-cols-2 gap-2 max-md:grid-cols-1">
            {purposes.map((purpose) => (
              <li key={purpose.name}>
                <label className="flex items-start gap-2">
                  <input
                    type="checkbox"
                    className="mt-1"
                    checked={may.includes(purpose.name)}
                    onChange={({ target }) =>
                      setMay(
                        target.checked ? [...may, purpose.name] : may.filter((one) => one !== purpose.name),
                      )
                    }
                  />
                  <span>
                    {purpose.label}
                    <span className="block text-xs text-ink-soft">{purpose.does}</span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
        </fieldset>
        <Labelled label="How often">
          <Choose label="How often" className="w-auto!" value={most} options={LIMITS} onChange={setMost} />
        </Labelled>
        <Button type="submit" kind="primary" busy={busy} disabled={name.trim() === "" || may.length === 0}>
          <KeyRound className="size-4" aria-hidden /> Make the key
        </Button>
        {problem && <Problem>{problem}</Problem>}
      </form>
    </section>
  );
}

function KeyLine({ one, purposes, now }: { one: DoorKey; purposes: readonly PurposeWords[]; now: number }) {
  const [asked, setAsked] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const { revalidate } = useRevalidator();
  const labels = purposes
    .filter(({ name }) => one.may.includes(name))
    .map(({ label }) => label.toLowerCase());
  const withdraw = async () => {
    const { problem: why } = await tell("/settings/door/change", { intent: "withdraw", id: one.id });
    setProblem(why);
    setAsked(false);
    if (why === null) void revalidate();
  };
  const at = (time: string) => timeWords(time, now);
  return (
    <li
      className={`flex flex-wrap items-center gap-x-4 gap-y-1 py-3 ${one.withdrawnAt ? "text-ink-soft" : ""}`}
    >
      <div className="min-w-0 grow">
        <p className="truncate font-medium" title={one.name}>
          {one.name}
        </p>
        <p className="text-xs text-ink-soft">
          For {labels.join(", ")} · {one.most.toLocaleString("en")} a minute · made {at(one.madeAt)} ·{" "}
          {one.withdrawnAt
            ? `withdrawn ${at(one.withdrawnAt)}`
            : one.usedAt
              ? `last used ${at(one.usedAt)}`
              : "not used yet"}
        </p>
        {problem && <Problem>{problem}</Problem>}
      </div>
      {!one.withdrawnAt &&
        (asked ? (
          <span className="flex items-center gap-2">
            <span>Nobody comes in with it any more.</span>
            <Button kind="danger" onClick={() => void withdraw()}>
              Withdraw
            </Button>
            <Button kind="quiet" onClick={() => setAsked(false)}>
              Keep
            </Button>
          </span>
        ) : (
          <Button aria-label={`Withdraw the key of ${one.name}`} onClick={() => setAsked(true)}>
            Withdraw…
          </Button>
        ))}
    </li>
  );
}
