import { data, Form, isRouteErrorResponse } from "react-router";
import { resubscribe, unsubscribe, unsubscribeFacts } from "~/server/unsubscribe";
import { brandOf } from "~/server/workspace/settings";
import { formInput } from "../input";
import { orNotHere } from "../refusal";
import { buttonLook } from "../ui/button";
import type { Route } from "./+types/unsubscribe";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { septima } = context;
  const brand = (await brandOf(septima)).name;
  if (params.token === "preview") return { brand, preview: true, email: "", subscribed: true };
  return { brand, preview: false, ...(await orNotHere(() => unsubscribeFacts(septima, params.token))) };
}

/** The page's buttons, and the one-click POST of RFC 8058, which mail programs send by themselves. */
export async function action({ context, params, request }: Route.ActionArgs) {
  const form = await formInput(request);
  const { septima } = context;
  // The address of proofs and exports belongs to nobody; mail programs may post to it all the same.
  if (params.token === "preview") return null;
  await orNotHere(async () => {
    if (form.get("List-Unsubscribe") === "One-Click") await unsubscribe(septima, params.token, "one-click");
    else if (form.get("intent") === "unsubscribe") await unsubscribe(septima, params.token, "page");
    else if (form.get("intent") === "resubscribe") await resubscribe(septima, params.token);
    else throw data("Choose one of the buttons.", { status: 400 });
  });
  return null;
}

export default function Unsubscribe({
  loaderData: { brand, preview, email, subscribed },
}: Route.ComponentProps) {
  return (
    <main className="mx-auto mt-20 max-w-md card p-8 text-[15px]/6">
      <title>{`Letters from ${brand}`}</title>
      <h1 className="mb-2 text-xl font-semibold">
        {subscribed ? `Letters from ${brand}` : "You are unsubscribed"}
      </h1>
      {preview && (
        <p>
          This is the page readers come to. You came from a preview or a proof, so there is nobody to
          unsubscribe.
        </p>
      )}
      {!preview && subscribed && (
        <Form method="post">
          <p className="mb-4">
            <strong className="break-all">{email}</strong> gets letters from {brand}. One press, and there
            will be no more.
          </p>
          <button type="submit" name="intent" value="unsubscribe" className={buttonLook("primary")}>
            Unsubscribe
          </button>
        </Form>
      )}
      {!preview && !subscribed && (
        <Form method="post">
          <p className="mb-4">
            <strong className="break-all">{email}</strong> will get no more letters from {brand}.
          </p>
          <button type="submit" name="intent" value="resubscribe" className={buttonLook()}>
            It was a mistake: subscribe again
          </button>
        </Form>
      )}
    </main>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return (
    <main className="mx-auto mt-20 max-w-md card p-8 text-[15px]/6">
      <h1 className="mb-2 text-xl font-semibold">This link does not work</h1>
      <p>
        {isRouteErrorResponse(error) && typeof error.data === "string"
          ? error.data
          : "Open it from the email once more."}
      </p>
    </main>
  );
}
