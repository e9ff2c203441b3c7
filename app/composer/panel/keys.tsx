import { Link } from "react-router";
import { SOURCE_KINDS } from "~/core/items";
import type { KeyProperty } from "~/core/properties";
import { Choose } from "../../ui/choose";
import { Line, Problem } from "../../ui/form";
import { counted } from "../../ui/time";
import { useComposer } from "../state/store";
import { type Settable, useSet } from "./lines";

const NONE: never[] = [];

/** What can be named from a design: a source of live content, or a batch of codes. */
function useNamed(of: KeyProperty["of"]): {
  options: { value: string; label: string; aside?: string; failure?: string | null }[];
  choose: string;
  none: string;
} {
  const sources = useComposer((state) => state.facts.sources);
  const codes = useComposer((state) => state.facts.tags.codes) ?? NONE;
  return of === "source"
    ? {
        options: sources.map(({ id, name, kind, held, failure }) => ({
          value: id,
          label: name,
          aside: counted(held, SOURCE_KINDS[kind].item),
          failure,
        })),
        choose: "Choose a source…",
        none: "There is no source yet. Add one under",
      }
    : {
        options: codes.map(({ key, name }) => ({ value: key, label: name })),
        choose: "Choose a batch",
        none: "There is no batch of codes yet. Bring one in under",
      };
}

/** Something outside of the design, chosen by its name. */
export function KeyControl({ node, at, property }: { node: Settable; at: string; property: KeyProperty }) {
  const set = useSet(node.id);
  const { options, choose, none } = useNamed(property.of);
  const { label, history } = property;
  const value = (node[at] as string | undefined) ?? "";
  const chosen = options.find((one) => one.value === value);
  return (
    <>
      <Line label={label}>
        <Choose
          label={label}
          value={chosen ? value : ""}
          placeholder={value !== "" && !chosen ? "One that is gone" : choose}
          onChange={(next) => set({ [at]: next }, history)}
          options={options}
        />
      </Line>
      {options.length === 0 && (
        <p className="text-ink-soft">
          {none}{" "}
          <Link to="/sources" className="underline">
            Sources
          </Link>
          .
        </p>
      )}
      {chosen?.failure && (
        <Problem mild>The last refresh failed: {chosen.failure} The last good copy is shown.</Problem>
      )}
    </>
  );
}
