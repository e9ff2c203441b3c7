import type { Located } from "~/core/email";
import { Choice, Line } from "../../ui/form";
import { useSet } from "./look";
import { Part } from "./part";

/** What is different on phones. */
export function OnPhones({ node }: { node: Exclude<Located, { kind: "column" }> }) {
  const set = useSet(node.node.id);
  const fixed = node.kind === "block" && node.node.type === "footer";
  return (
    <Part title="On phones">
      {node.kind === "row" && node.node.columns.length > 1 && (
        <Line label="Columns">
          {() => (
            <Choice
              label="Columns on phones"
              value={node.node.onPhones ?? "stack"}
              onChange={(onPhones) => set({ onPhones: onPhones === "stack" ? undefined : onPhones })}
              options={[
                { value: "stack", label: "Stacked" },
                { value: "reverse", label: "Reversed" },
                { value: "beside", label: "Beside" },
              ]}
            />
          )}
        </Line>
      )}
      {!fixed && (
        <Line label="Shown">
          {() => (
            <Choice
              label="Shown on"
              value={
                node.node.hideOn === "phone" ? "desktop" : node.node.hideOn === "desktop" ? "phone" : "both"
              }
              onChange={(shown) =>
                set({ hideOn: shown === "both" ? undefined : shown === "phone" ? "desktop" : "phone" })
              }
              options={[
                { value: "both", label: "Both" },
                { value: "phone", label: "Phone" },
                { value: "desktop", label: "Desktop" },
              ]}
            />
          )}
        </Line>
      )}
    </Part>
  );
}
