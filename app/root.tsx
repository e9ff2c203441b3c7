import { type ReactNode, useContext } from "react";
import {
  isRouteErrorResponse,
  Links,
  type LinksFunction,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  type ShouldRevalidateFunctionArgs,
  useMatches,
} from "react-router";
import { brandFont, WEB_FONTS } from "~/core/email";
import { fontFaces } from "~/core/markup";
import { brandOf } from "~/server/workspace/settings";
import type { Route } from "./+types/root";
import stylesheet from "./app.css?url";
import { FindAnything } from "./find/find";
import { NonceContext } from "./nonce";
import { Button } from "./ui/button";
import { Notices } from "./ui/notices";

export const links: LinksFunction = () => [
  { rel: "stylesheet", href: stylesheet },
  { rel: "icon", href: "/mark.svg", type: "image/svg+xml" },
];

export function Layout({ children }: { children: ReactNode }) {
  const nonce = useContext(NonceContext);
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

/** The fonts that emails may be set in: every page that shows one takes them from here. */
export async function loader({ context: { septima } }: Route.LoaderArgs) {
  const { fonts = [] } = await brandOf(septima);
  return { faces: fontFaces([...fonts.map(brandFont), ...WEB_FONTS]) };
}

/** Going from page to page changes no font; what was done on one may. */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs) {
  return currentUrl.href === nextUrl.href || formMethod !== undefined ? defaultShouldRevalidate : false;
}

/** Whether who is here came by a link of their own, for which there is nothing else. */
const useOutside = () =>
  useMatches().some(({ handle }) => (handle as { outside?: boolean } | undefined)?.outside);

export default function Root({ loaderData }: Route.ComponentProps) {
  const outside = useOutside();
  return (
    <Notices>
      <style>{loaderData.faces}</style>
      {outside ? (
        <Outlet />
      ) : (
        <FindAnything>
          <Outlet />
        </FindAnything>
      )}
    </Notices>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const outside = useOutside();
  const known = isRouteErrorResponse(error);
  // What a browser throws when there is no answer at all.
  const away = error instanceof TypeError && /fetch|network|load failed/i.test(error.message);
  const words = away
    ? "Septima cannot be reached. Nothing that was saved is lost; try again when it is back."
    : known
      ? // What the router says of itself is for nobody who reads it.
        typeof error.data === "string" && error.data !== "" && !("internal" in error && error.internal)
        ? error.data
        : "There is nothing at this address."
      : "Something went wrong inside the program. Nothing that was saved is lost.";
  return (
    <main className="mx-auto mt-24 max-w-lg card p-8">
      <title>Not here · Septima</title>
      <h1 className="text-xl font-semibold">
        {known && error.status === 404 ? "Not here" : "This did not work"}
      </h1>
      <p className="mt-2 text-ink-soft">{words}</p>
      {away && (
        <Button kind="primary" className="mt-4 mr-4" onClick={() => window.location.reload()}>
          Try again
        </Button>
      )}
      {!outside && (
        <a className="mt-4 inline-block font-medium text-mulberry underline" href="/campaigns">
          Back to the campaigns
        </a>
      )}
    </main>
  );
}
