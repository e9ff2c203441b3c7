/** How the weights of findings look and are called. */
import { CircleAlert, Lightbulb, TriangleAlert } from "lucide-react";
import type { Weight } from "~/core/preflight";

export const WEIGHT_LOOKS = {
  stops: { title: "Stops sending", icon: CircleAlert, ink: "text-red", face: "bg-red" },
  look: { title: "Look at this", icon: TriangleAlert, ink: "text-amber", face: "bg-amber" },
  could: { title: "Could be better", icon: Lightbulb, ink: "text-ink-soft", face: "bg-ink-soft" },
} as const satisfies Record<Weight, unknown>;

export const WEIGHTS_SHOWN = ["stops", "look", "could"] as const;
