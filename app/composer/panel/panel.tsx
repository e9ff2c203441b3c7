import { ChevronRight } from "lucide-react";
import { lazy, Suspense, useMemo } from "react";
import { blockType } from "~/core/blocks";
import { type Email, findNode, pathTo } from "~/core/email";
import { nodeLabel } from "../state/nodes";
import { useComposer } from "../state/store";
import { AllComments } from "./comments";
import { OneOffsPart } from "./one-offs";
import { ThemesPart } from "./themes";
import { WritingOfAll } from "./writing-of-all";

// The controls of all kinds of parts come with the first selection.
const ThemeEditor = lazy(() => import("./theme-editor"));
const SelectedPanel = lazy(() => import("./selected"));

/** What the selected thing can do, most used first. */
export function Panel() {
  const email = useComposer((state) => state.resting);
  const selection = useComposer((state) => state.selection);
  const also = useComposer((state) => state.also);
  const found = useMemo(
    () => (selection === null ? undefined : findNode(email, selection)),
    [email, selection],
  );
  return (
    <aside
      aria-label="Selection"
      className="w-72 shrink-0 overflow-y-auto border-l bg-paper max-sm:w-full"
      data-testid="panel"
    >
      <Path />
      {also.length > 0 || found ? (
        <Suspense>
          <SelectedPanel found={also.length > 0 ? undefined : found} />
        </Suspense>
      ) : (
        <EmailPanel email={email} />
      )}
    </aside>
  );
}

function Path() {
  const email = useComposer((state) => state.resting);
  const selection = useComposer((state) => state.selection);
  const select = useComposer((state) => state.select);
  const path = selection === null ? [] : pathTo(email, selection);
  const crumbs = [
    { id: null, label: "Email" },
    ...path.map((it) => ({
      id: it.node.id,
      label: it.kind === "block" ? (blockType(it.node.type)?.label ?? it.node.type) : nodeLabel(it),
    })),
  ];
  return (
    <nav
      aria-label="Path of the selection"
      className="flex min-h-10 flex-wrap items-center gap-0.5 border-b py-2 pr-10 pl-2.5 text-xs"
    >
      {crumbs.map((crumb, index) => (
        <span key={crumb.id ?? "email"} className="flex items-center gap-0.5">
          {index > 0 && <ChevronRight className="size-3 text-ink-soft" aria-hidden />}
          <button
            type="button"
            aria-current={index === crumbs.length - 1}
            onClick={() => select(crumb.id)}
            className="max-w-28 truncate rounded px-1 py-0.5 text-ink-soft hover:bg-black/5 aria-[current=true]:font-semibold aria-[current=true]:text-ink"
          >
            {crumb.label}
          </button>
        </span>
      ))}
    </nav>
  );
}

function EmailPanel({ email }: { email: Email }) {
  const making = useComposer((state) => state.making !== null);
  if (making)
    return (
      <Suspense>
        <ThemeEditor />
      </Suspense>
    );
  return (
    <>
      <AllComments />
      <ThemesPart />
      <OneOffsPart />
      <WritingOfAll email={email} />
      <p className="px-3.5 py-3 text-ink-soft">
        Select a part of the email to change it. Click words twice to edit them where they stand.
      </p>
    </>
  );
}
