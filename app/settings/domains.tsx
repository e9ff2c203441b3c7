import { useState } from "react";
import type { SenderDomain, SigningKey } from "~/server/mail/signing-keys";
import { Button } from "../ui/button";
import { Input, Labelled, Problem } from "../ui/form";
import { Switch } from "../ui/switch";
import { timeWords } from "../ui/time";
import { useAsk } from "./ask";

/** The domains letters come from, and who signs for each. */
export function SenderDomains({ domains, now }: { domains: SenderDomain[]; now: number }) {
  const { ask, busy, problem } = useAsk();
  const [other, setOther] = useState("");
  return (
    <section className="card space-y-4 p-5" aria-label="Sender domains">
      <div>
        <h2 className="text-[15px] font-semibold">Sender domains</h2>
        <p className="mt-1 text-ink-soft">
          Messages are signed for the domain they come from, so that receivers can tell them from forged ones
          (DKIM). The public half of each key is published in the DNS of the domain; the other half is kept
          here, sealed.
        </p>
      </div>
      {domains.length === 0 && (
        <p className="text-ink-soft">
          There is no sender yet. Add one under Brand, and its domain will be here.
        </p>
      )}
      {domains.map((domain) => (
        <Domain key={domain.domain} of={domain} now={now} />
      ))}
      <form
        className="flex flex-wrap items-end gap-3 border-t border-line pt-4"
        onSubmit={(event) => {
          event.preventDefault();
          ask({ intent: "make-keys", domain: other });
          setOther("");
        }}
      >
        <div className="grow basis-60">
          <Labelled label="Another domain">
            <Input
              spellCheck={false}
              placeholder="letters.example"
              value={other}
              onChange={(event) => setOther(event.target.value)}
            />
          </Labelled>
        </div>
        <Button type="submit" disabled={other.trim() === ""} busy={busy}>
          Make keys for it
        </Button>
      </form>
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}

const SIGNS: Record<SenderDomain["signs"], string> = {
  keys: "Signed here",
  relay: "Signed by the relay",
  nobody: "Nothing signs",
  sealed: "Its keys cannot be opened here",
};

function Domain({ of: { domain, used, signs, keys }, now }: { of: SenderDomain; now: number }) {
  const { ask, busy, problem } = useAsk();
  const waits = keys.some(({ stage }) => stage === "waiting");
  const retired = keys.filter(({ stage }) => stage === "retired");
  return (
    <section className="space-y-3 border-t border-line pt-4" aria-label={domain}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <h3 className="min-w-0 font-semibold break-all">{domain}</h3>
        <span className={signs === "keys" || signs === "relay" ? "text-green" : "text-red"}>
          {SIGNS[signs]}
        </span>
        {!used && <span className="text-ink-soft">No sender of the brand writes from it.</span>}
        <div className="ml-auto">
          {!waits && signs !== "sealed" && (
            <Button busy={busy} onClick={() => ask({ intent: "make-keys", domain })}>
              {signs === "keys" ? "Exchange the keys" : "Make keys"}
              <span className="sr-only"> of {domain}</span>
            </Button>
          )}
        </div>
      </div>
      {signs === "nobody" && used && (
        <p className="text-ink-soft">
          Nothing can be sent from it until its keys are made, or the relay is known to sign.
        </p>
      )}
      {(signs === "relay" || signs === "nobody") && (
        <Switch
          checked={signs === "relay"}
          onChange={(next) => ask({ intent: "relay-signs", domain, signs: next })}
        >
          The relay signs messages from {domain}
        </Switch>
      )}
      {signs === "keys" &&
        !keys.some(({ algorithm, stage }) => algorithm === "rsa-sha256" && stage !== "retired") && (
          <p className="text-ink-soft">
            Some receivers know RSA alone: exchange the keys before real letters go, and there will be one.
          </p>
        )}
      {problem && <Problem>{problem}</Problem>}
      {keys
        .filter(({ stage }) => stage !== "retired")
        .map((key) => (
          <Key key={key.id} of={key} sealed={signs === "sealed"} now={now} />
        ))}
      {retired.length > 0 && (
        <details>
          <summary className="text-ink-soft">
            {retired.length === 1 ? "A key that signs" : `${retired.length} keys that sign`} no more
          </summary>
          <p className="mt-1 text-ink-soft">
            Leave their records published for a week after the exchange: letters on their way are still
            verified by them.
          </p>
          <ul className="mt-1 space-y-1">
            {retired.map(({ id, record }) => (
              <li key={id} className="font-mono text-xs break-all">
                {record.name}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

const KIND: Record<SigningKey["algorithm"], string> = {
  "rsa-sha256": "RSA, 2048 bits: for all receivers",
  "ed25519-sha256": "Ed25519: for newer receivers, beside the other",
};

const SEEN_LOOK = {
  there: "text-green",
  missing: "text-amber",
  other: "text-red",
  unanswered: "text-ink-soft",
};

function Key({
  of: { id, algorithm, stage, record, seen, selector },
  sealed,
  now,
}: {
  of: SigningKey;
  /** Whether it cannot be opened. */
  sealed: boolean;
  now: number;
}) {
  const { ask, busy, problem } = useAsk();
  return (
    <section className="space-y-2 rounded-md bg-black/3 p-3" aria-label={`Key ${selector}`}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h4 className="font-medium">{KIND[algorithm]}</h4>
        {stage === "signing" && !sealed && <span className="text-green">Signs</span>}
        {stage === "waiting" && <span className="text-amber">Waits: publish it, then let it sign</span>}
      </div>
      <dl className="space-y-1.5">
        <Published term="Name of the TXT record" words={record.name} />
        <Published term="What it says" words={record.text} long />
      </dl>
      <div className="flex flex-wrap items-center gap-3">
        <Button busy={busy} onClick={() => ask({ intent: "check-key", key: id })}>
          Ask the DNS<span className="sr-only"> for {selector}</span>
        </Button>
        {stage === "waiting" && (
          <>
            <Button
              kind={seen?.what === "there" ? "primary" : "plain"}
              busy={busy}
              onClick={() => ask({ intent: "use-key", key: id })}
            >
              Sign with it<span className="sr-only"> ({selector})</span>
            </Button>
            <Button kind="quiet" busy={busy} onClick={() => ask({ intent: "retire-key", key: id })}>
              Throw away<span className="sr-only"> {selector}</span>
            </Button>
          </>
        )}
        <span role="status" className={seen ? SEEN_LOOK[seen.what] : "text-ink-soft"}>
          {busy
            ? "Asking…"
            : seen
              ? `${seen.words} (${timeWords(new Date(seen.at).toISOString(), now)})`
              : "Nobody has asked yet whether it is published."}
        </span>
      </div>
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}

/** Words that are to be taken elsewhere as they stand. */
function Published({ term, words, long }: { term: string; words: string; long?: boolean }) {
  const [copied, setCopied] = useState(false);
  return (
    <div className="flex items-start gap-2">
      <dt className="w-44 shrink-0 text-ink-soft max-sm:w-24">{term}</dt>
      <dd className="flex min-w-0 grow items-start gap-2">
        <span
          className={`min-w-0 grow font-mono text-xs/5 break-all select-all ${long ? "line-clamp-2" : ""}`}
        >
          {words}
        </span>
        <Button
          kind="quiet"
          className="-my-1"
          onClick={() => navigator.clipboard.writeText(words).then(() => setCopied(true))}
        >
          {copied ? "Copied" : "Copy"}
          <span className="sr-only"> ({term})</span>
        </Button>
      </dd>
    </div>
  );
}
