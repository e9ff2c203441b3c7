import { memo } from "react";
import type { Located } from "~/core/email";
import { useComposer } from "../state/store";
import { InLanguage } from "../words/in-language";
import { KeepClipping, LinkedPart, useLinked } from "./clipping";
import { BlockComments } from "./comments";
import { NodeLook } from "./look";
import { OnPhones } from "./on-phones";
import { BlockParts, SameKind } from "./parts";
import { BlockControls } from "./properties";
import { SeveralPanel } from "./several";
import { WhoGetsIt } from "./who";
import { Writing } from "./writing";

/** What can be done to the part that is selected, or to several. */
export default function SelectedPanel({ found }: { found: Located | undefined }) {
  return found ? <OnePanel key={found.node.id} found={found} /> : <SeveralPanel />;
}

function OnePanel({ found }: { found: Located }) {
  const own = <OwnPanel found={found} />;
  return found.kind === "block" ? <BlockComments block={found.node.id}>{own}</BlockComments> : own;
}

/** What is linked is not changed part by part, unless it is open to be changed for every place. */
function OwnPanel({ found }: { found: Located }) {
  const linked = useLinked(found.node.id);
  const opened = useComposer((state) => state.opened);
  if (!linked)
    return (
      <>
        <NodePanel found={found} />
        <KeepClipping node={found} />
      </>
    );
  return (
    <>
      <LinkedPart linked={linked} />
      {opened === linked.node.id ? (
        <NodePanel found={found} />
      ) : (
        linked.node.id === found.node.id && found.kind !== "column" && <WhoGetsIt node={found} />
      )}
    </>
  );
}

const NodePanel = memo(function NodePanel({ found }: { found: Located }) {
  return (
    <>
      {found.kind === "block" && (
        <>
          <InLanguage block={found.node.id} />
          <BlockControls block={found.node} />
          <BlockParts block={found.node} />
          <Writing block={found.node} />
        </>
      )}
      <NodeLook of={found} />
      {found.kind !== "column" && (
        <>
          <WhoGetsIt node={found} />
          <OnPhones node={found} />
        </>
      )}
      {found.kind === "block" && <SameKind block={found.node} />}
    </>
  );
});
