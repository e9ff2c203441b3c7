import { Link } from "react-router";
import { useWhoAssists } from "./who";

/** Who helps, or why nobody can be asked; what pretends says so. */
export function WhoLine() {
  const who = useWhoAssists();
  if (!who) return <p className="min-h-4 text-xs text-ink-soft" />;
  if (who.problem !== null)
    return (
      <p className="text-xs text-amber">
        {who.problem}{" "}
        <Link to="/settings" className="underline">
          Settings
        </Link>
      </p>
    );
  return (
    <p className="text-xs text-ink-soft">
      {who.result.simulated
        ? `${who.result.name}: it writes by rules and understands nothing. A real one is named in `
        : `${who.result.name} answers. It is chosen in `}
      <Link to="/settings" className="underline">
        Settings
      </Link>
      .
    </p>
  );
}
