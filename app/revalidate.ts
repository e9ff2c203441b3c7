import type { ShouldRevalidateFunctionArgs } from "react-router";

/** For routes whose data does not depend on what stands behind the `?`: a change of that alone asks for nothing. */
export const notForSearch = ({
  currentUrl,
  nextUrl,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs) =>
  currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search
    ? false
    : defaultShouldRevalidate;
