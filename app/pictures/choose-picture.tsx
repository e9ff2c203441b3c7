import { lazy, Suspense } from "react";
import type { Choosing } from "./chooser";

const Chooser = lazy(() => import("./chooser"));

/** Asks which picture: of the library, or one that is added. It closes when one is chosen. */
export const ChoosePicture = ({ open, ...choosing }: Choosing & { open: boolean }) => (
  <Suspense>{open && <Chooser {...choosing} />}</Suspense>
);
