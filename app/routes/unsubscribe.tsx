import { data, Form, isRouteErrorResponse } from "react-router";
import { prefer, preferences, resubscribe, unsubscribe } from "~/server/unsubscribe";
import { brandOf } from "~/server/workspace/settings";
import { formInput } from "../input";
import { buttonLook } from "../ui/button";
import type { Route } from "./+types/unsubscribe";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { septima } = context;
  const brand = (await brandOf(septima)).name;
  const nobody = { email: "", status: "subscribed" as const, topics: [] };
  if (params.token === "preview") return { brand, preview: true, ...nobody };
  return { brand, preview: false, ...(await preferences(septima, params.token)) };
}

/** The page's buttons, and the one-click POST of RFC 8058, which mail programs send by themselves. */
export async function action({ context, params, request }: Route.ActionArgs) {
  const form = await formInput(request);
  const { septima } = context;
  // The address of proofs and exports belongs to nobody; mail programs may post to it all the same.
  if (params.token === "preview") return null;
  const intent = form.get("intent");
  if (form.get("List-Unsubscribe") === "One-Click") await unsubscribe(septima, params.token, "one-click");
  else if (intent === "unsubscribe") await unsubscribe(septima, params.token, "page");
  else if (intent === "resubscribe") await resubscribe(septima, params.token);
  else if (intent === "topics") {
    await prefer(septima, params.token, form.getAll("topic").map(String));
    return { kept: true };
  } else throw data("Choose one of the buttons.", { status: 400 });
  return null;
}

const TITLES = {
  subscribed: "",
  unsubscribed: "You are unsubscribed",
  bounced: "Letters did not arrive",
  complained: "You get no letters",
  removed: "You get no letters",
};

export default function Unsubscribe({ loaderData, actionData }: Route.ComponentProps) {
  const { brand, preview, email, status, topics } = loaderData;
  const address = <strong className="wrap-anywhere">{email}</strong>;
  return (
    <main className="mx-auto my-16 max-w-md card p-8 text-[15px]/6 max-sm:m-4 max-sm:p-5">
      <title>{`Letters from ${brand}`}</title>
      <h1 className="mb-2 text-xl font-semibold">{TITLES[status] || `Letters from ${brand}`}</h1>
      {preview && (
        <p>
          This is the page readers come to. You came from a preview or a proof, so there is nobody to
          unsubscribe.
        </p>
      )}
      {!preview && status === "subscribed" && (
        <>
          {topics.length > 0 && (
            <Form method="post" className="mb-6">
              <p className="mb-3">What would you like to get at {address}?</p>
              <ul className="mb-4 space-y-2.5">
                {topics.map(({ id, name, about, on }) => (
                  <li key={`${id} ${on}`}>
                    <label className="flex items-start gap-3">
                      <input
                        type="checkbox"
                        name="topic"
                        value={id}
                        defaultChecked={on}
                        className="mt-1 size-4"
                      />
                      <span>
                        <span className="font-semibold">{name}</span>
                        {about !== "" && <span className="block text-ink-soft">{about}</span>}
                      </span>
                    </label>
                  </li>
                ))}
              </ul>
              <button type="submit" name="intent" value="topics" className={buttonLook("primary")}>
                Keep my choice
              </button>
              {actionData?.kept && (
                <span role="status" className="ml-3 text-green">
                  Kept
                </span>
              )}
            </Form>
          )}
          <Form method="post" className={topics.length > 0 ? "border-t pt-5" : ""}>
            <p className="mb-4">
              {topics.length > 0 ? (
                "Or none at all: one"
              ) : (
                <>
                  {address} gets letters from {brand}. One
                </>
              )}{" "}
              press, and there will be no more.
            </p>
            <button
              type="submit"
              name="intent"
              value="unsubscribe"
              className={buttonLook(topics.length > 0 ? "plain" : "primary")}
            >
              Unsubscribe{topics.length > 0 && " from everything"}
            </button>
          </Form>
        </>
      )}
      {!preview && status === "unsubscribed" && (
        <Form method="post">
          <p className="mb-4">
            {address} will get no more letters from {brand}.
          </p>
          <button type="submit" name="intent" value="resubscribe" className={buttonLook()}>
            Subscribe again
          </button>
        </Form>
      )}
      {!preview && (status === "bounced" || status === "complained") && (
        <p>
          {address} gets no letters from {brand}
          {status === "bounced" ? ", since the address took none" : ", since one was called spam"}. Write to
          us if that should change.
        </p>
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
