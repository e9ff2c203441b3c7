import { Form } from "react-router";
import { asked, confirmFriend } from "~/server/referrals/joining";
import { brandOf } from "~/server/workspace/settings";
import { buttonLook } from "../ui/button";
import type { Route } from "./+types/join-confirm";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const friend = await asked(septima, params.token);
  return { brand: (await brandOf(septima)).name, ...friend };
}

export async function action({ context: { septima }, params }: Route.ActionArgs) {
  await confirmFriend(septima, params.token);
  return { done: true };
}

/** Where the mail to a friend leads. A press confirms, and nothing else does: programs look at links ahead of people. */
export default function JoinConfirm({
  loaderData: { brand, email, confirmed },
  actionData,
}: Route.ComponentProps) {
  const done = confirmed || actionData?.done === true;
  return (
    <main className="mx-auto my-16 max-w-md card p-8 text-[15px]/6 max-sm:m-4 max-sm:p-5">
      <title>{`Letters from ${brand}`}</title>
      <p className="mb-1 text-ink-soft">{brand}</p>
      <h1 className="mb-2 text-xl font-semibold">{done ? "You are on the list" : "One press more"}</h1>
      {done ? (
        <p>
          The next letter comes to <strong className="wrap-anywhere">{email}</strong>. Every letter has a link
          at its foot to stop them.
        </p>
      ) : (
        <Form method="post">
          <p className="mb-4">
            Letters from {brand} to <strong className="wrap-anywhere">{email}</strong>?
          </p>
          <button type="submit" className={buttonLook("primary")}>
            Yes, send them
          </button>
        </Form>
      )}
    </main>
  );
}
