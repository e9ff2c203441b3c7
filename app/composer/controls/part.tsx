import type { ReactNode } from "react";

/** One part of the panel, with its title. */
export function Part({
  title,
  tone,
  aside,
  children,
}: {
  title: string;
  tone?: "teal";
  aside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section className="space-y-2.5 border-b px-3.5 py-3.5">
      <h2 className={`flex justify-between font-semibold ${tone === "teal" ? "text-teal" : ""}`}>
        {title} {aside && <span className="font-normal">{aside}</span>}
      </h2>
      {children}
    </section>
  );
}
