import type { ReactNode } from "react";
import { Problem } from "./form";

/** A page beside the navigation: title, what there is to say about it, what to do, and the thing itself. */
export function Page({
  title,
  about,
  actions,
  problem,
  wide,
  children,
}: {
  title: string;
  about?: ReactNode;
  actions?: ReactNode;
  /** What went wrong with what was asked for. */
  problem?: string | null;
  /** For tables: as wide as there is room. */
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <main className={`mx-auto w-full px-7 py-5 max-sm:px-4 ${wide ? "max-w-[1760px]" : "max-w-6xl"}`}>
      <title>{`${title} · Septima`}</title>
      <header className="mb-4 flex min-h-8 flex-wrap items-center gap-3">
        <h1 className="text-[22px]/7 font-semibold">{title}</h1>
        {about && <p className="text-ink-soft">{about}</p>}
        <div className="ml-auto flex flex-wrap gap-3">{actions}</div>
      </header>
      {problem && (
        <div className="mb-4">
          <Problem>{problem}</Problem>
        </div>
      )}
      {children}
    </main>
  );
}

/** What will be here, and the first step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="card flex flex-col items-center gap-2 px-6 py-12 text-center">
      <p className="text-[15px] font-semibold">{title}</p>
      <div className="max-w-md text-ink-soft">{children}</div>
    </div>
  );
}
