import {
  Images,
  Inbox,
  LayoutTemplate,
  Mail,
  Palette,
  Rss,
  Settings,
  Signpost,
  UserPlus,
  Users,
} from "lucide-react";
import { NavLink, Outlet } from "react-router";
import { UnsavedGuard } from "../ui/unsaved";

const ENTRIES = [
  { to: "/campaigns", label: "Campaigns", icon: Mail },
  { to: "/templates", label: "Templates", icon: LayoutTemplate },
  { to: "/audience", label: "Audience", icon: Users },
  { to: "/referrals", label: "Referrals", icon: UserPlus },
  { to: "/lookups", label: "Lookups", icon: Signpost },
  { to: "/sources", label: "Sources", icon: Rss },
  { to: "/pictures", label: "Pictures", icon: Images },
  { to: "/brand", label: "Brand", icon: Palette },
];

function NavEntry({ to, label, icon: Icon }: (typeof ENTRIES)[number]) {
  return (
    <NavLink
      to={to}
      className="flex h-8 items-center gap-2.5 rounded-md px-2.5 text-ink-soft hover:bg-black/4 aria-[current=page]:bg-[#ebeaee] aria-[current=page]:font-semibold aria-[current=page]:text-ink"
    >
      <Icon className="size-4" strokeWidth={1.75} aria-hidden />
      {label}
    </NavLink>
  );
}

export default function Shell() {
  return (
    <div className="flex min-h-screen">
      <nav
        aria-label="Septima"
        className="sticky top-0 flex h-screen w-49 shrink-0 flex-col gap-0.5 border-r bg-paper p-2.5 max-md:w-14 max-md:[&_a]:overflow-hidden max-md:[&_a]:text-transparent max-md:[&_svg]:shrink-0 max-md:[&_svg]:text-ink"
      >
        <NavLink
          to="/campaigns"
          className="mb-2 flex items-center gap-2.5 px-1.5 py-1 text-[15px] font-semibold"
        >
          <img src="/mark.svg" alt="" className="size-6.5 shrink-0" />
          Septima
        </NavLink>
        {ENTRIES.map((entry) => (
          <NavEntry key={entry.to} {...entry} />
        ))}
        <div className="mt-auto flex flex-col gap-0.5">
          <NavEntry to="/postroom" label="Postroom" icon={Inbox} />
          <NavEntry to="/settings" label="Settings" icon={Settings} />
        </div>
      </nav>
      <div className="min-w-0 grow">
        <UnsavedGuard>
          <Outlet />
        </UnsavedGuard>
      </div>
    </div>
  );
}
