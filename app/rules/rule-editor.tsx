import { lazy, Suspense } from "react";
import type { RuleEditing } from "./group-editor";

const GroupEditor = lazy(() => import("./group-editor"));

/** Writes a rule. */
export const RuleEditor = (editing: RuleEditing) => (
  <Suspense>
    <GroupEditor {...editing} />
  </Suspense>
);
