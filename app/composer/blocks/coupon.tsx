import { Link } from "react-router";
import type { CouponBlock } from "~/core/blocks";
import { Choose } from "../../ui/choose";
import { Input, Line } from "../../ui/form";
import { DayField } from "../../ui/when-field";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { HrefLine } from "./href";

export function CouponControls({ block }: { block: CouponBlock }) {
  const set = useSet(block.id);
  const codes = useComposer((state) => state.facts.tags.codes) ?? [];
  const chosen = codes.find(({ key }) => key === block.batch);
  return (
    <>
      <Part title="Code">
        {codes.length === 0 ? (
          <p className="text-ink-soft">
            There is no batch of codes yet. Bring one in under{" "}
            <Link to="/sources" className="underline">
              Sources
            </Link>
            .
          </p>
        ) : (
          <Line label="Batch">
            {(id) => (
              <Choose
                id={id}
                label="Batch"
                value={block.batch}
                placeholder="Choose a batch"
                options={[
                  ...(block.batch !== "" && !chosen ? [{ value: block.batch, label: "(gone)" }] : []),
                  ...codes.map(({ key, name }) => ({ value: key, label: name })),
                ]}
                onChange={(batch) => set({ batch }, "Choosing a batch of codes")}
              />
            )}
          </Line>
        )}
        <Line label="Without one">
          {(id) => (
            <Input
              id={id}
              value={block.otherwise}
              maxLength={200}
              placeholder="ask at the till"
              onChange={(event) =>
                set({ otherwise: event.target.value }, "Changing what stands without a code")
              }
            />
          )}
        </Line>
        <p className="text-xs text-ink-soft">
          Each reader gets a code of their own when it is sent; here and in proofs stands the example. Left
          empty, a sending stops before it runs short.
        </p>
        <Line label="Last day">
          {(id) => (
            <DayField
              id={id}
              label="Last day"
              value={block.until ?? chosen?.ends ?? ""}
              onChange={(until) => set({ until: until || undefined }, "Changing the last day")}
            />
          )}
        </Line>
        <Line label="Before it">
          {(id) => (
            <Input
              id={id}
              value={block.untilWords}
              maxLength={60}
              onChange={(event) => set({ untilWords: event.target.value }, "Changing the last day")}
            />
          )}
        </Line>
      </Part>
      <Part title="Button">
        <HrefLine href={block.href} onChange={(href) => set({ href }, "Changing the address")} />
        <Line label="Code as">
          {(id) => (
            <Input
              id={id}
              value={block.parameter}
              maxLength={60}
              placeholder="not in the address"
              onChange={(event) => set({ parameter: event.target.value }, "Changing the address")}
            />
          )}
        </Line>
        <p className="text-xs text-ink-soft">
          The shop gets the code in its address: …?{block.parameter || "code"}=…
        </p>
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
      </Part>
    </>
  );
}
