import { Form } from "react-router";
import { askFriend, invitation } from "~/server/referrals/joining";
import { brandOf } from "~/server/workspace/settings";
import { formInput } from "../input";
import { orProblem } from "../refusal";
import { buttonLook } from "../ui/button";
import type { Route } from "./+types/join";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const said = await invitation(septima, params.token);
  return { brand: (await brandOf(septima)).name, preview: params.token === "preview", ...said };
}

export async function action({ context: { septima }, params, request }: Route.ActionArgs) {
  const form = await formInput(request);
  const text = (name: string) => String(form.get(name) ?? "");
  const friend = { email: text("email"), name: text("name"), agreed: form.get("agreed") === "on" };
  return orProblem(async () => {
    await askFriend(septima, params.token, friend);
    return friend.email.trim();
  });
}

/** Where a reader's own link leads: a friend asks for the letters, and confirms from their mailbox. */
export default function Join({ loaderData, actionData }: Route.ComponentProps) {
  const { brand, preview, title, words, consent, by } = loaderData;
  const asked = actionData?.result ?? null;
  const problem = actionData?.problem ?? null;
  return (
    <main className="mx-auto my-16 max-w-md card p-8 text-[15px]/6 max-sm:m-4 max-sm:p-5">
      <title>{`Letters from ${brand}`}</title>
      <p className="mb-1 text-ink-soft">{brand}</p>
      <h1 className="mb-2 text-xl font-semibold">{asked === null ? title : "Look into your mailbox"}</h1>
      {asked !== null ? (
        <p role="status">
          {preview ? (
            "You came from a preview or a proof: nobody was asked."
          ) : (
            <>
              If <strong className="wrap-anywhere">{asked}</strong> does not get the letters yet, a mail is on
              its way there. One press in it, and you are on the list.
            </>
          )}
        </p>
      ) : (
        <>
          {words !== "" && <p className="mb-4 whitespace-pre-line">{words}</p>}
          {by !== null && <p className="mb-4">{by} sends you here.</p>}
          <Form method="post" className="space-y-3">
            <label className="block">
              <span className="mb-1 block font-medium">Your email address</span>
              <input type="email" name="email" required autoComplete="email" className="field w-full" />
            </label>
            <label className="block">
              <span className="mb-1 block font-medium">Your first name, if you like</span>
              <input
                type="text"
                name="name"
                maxLength={80}
                autoComplete="given-name"
                className="field w-full"
              />
            </label>
            <label className="flex items-start gap-3">
              <input type="checkbox" name="agreed" required className="mt-1 size-4" />
              <span>{consent}</span>
            </label>
            {problem !== null && (
              <p role="alert" className="text-red">
                {problem}
              </p>
            )}
            <button type="submit" className={buttonLook("primary")}>
              Ask for the letters
            </button>
          </Form>
        </>
      )}
    </main>
  );
}
