import type { ReactNode } from "react";
import { NavLink } from "react-router";
import { Page } from "../ui/page";

const PARTS = [
  { to: "/settings", label: "Workspace" },
  { to: "/settings/sending", label: "Sending" },
  { to: "/settings/returned", label: "What came back" },
  { to: "/settings/door", label: "Door" },
];

/** One part of the settings, with the others beside it. */
export function SettingsFrame({ children }: { children: ReactNode }) {
  return (
    <Page title="Settings" about="What Septima works with">
      <div className="flex items-start gap-6 max-md:flex-col">
        <nav
          aria-label="Settings"
          className="flex w-40 shrink-0 flex-col gap-0.5 max-md:w-full max-md:flex-row max-md:flex-wrap"
        >
          {PARTS.map(({ to, label }) => (
            <NavLink
              key={to}
              to={to}
              end
              className="rounded-md px-3 py-1.5 hover:bg-black/5 aria-[current=page]:bg-paper aria-[current=page]:font-semibold"
            >
              {label}
            </NavLink>
          ))}
        </nav>
        <div className="w-full min-w-0 max-w-3xl space-y-5">{children}</div>
      </div>
    </Page>
  );
}
