import { Form } from "react-router";
import { answerFacts, giveAnswer } from "~/server/answers";
import { brandOf } from "~/server/workspace/settings";
import { buttonLook } from "../ui/button";
import type { Route } from "./+types/answer";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { septima } = context;
  const brand = (await brandOf(septima)).name;
  const answer = Number(params.answer);
  if (params.token === "preview") return { brand, preview: true, answer, greatest: answer, given: null };
  const facts = await answerFacts(septima, params.token, params.block, answer);
  return { brand, preview: false, ...facts };
}

export async function action({ context, params }: Route.ActionArgs) {
  await giveAnswer(context.septima, params.token, params.block, Number(params.answer));
  return null;
}

/**
 * Where a press on a survey's scale leads. The answer is given by a press here and by nothing else: programs that look
 * at links ahead of people run scripts too.
 */
export default function Answer({
  loaderData: { brand, preview, answer, greatest, given },
}: Route.ComponentProps) {
  const done = given === answer;
  const waiting = !preview && !done;
  return (
    <main className="mx-auto mt-20 max-w-md card p-8 text-[15px]/6">
      <title>{`Your answer to ${brand}`}</title>
      <h1 className="mb-2 text-xl font-semibold">{done ? "Thank you" : "Your answer"}</h1>
      {preview && (
        <p>You came from a preview or a proof: “{answer}” would be the answer, and nothing was kept.</p>
      )}
      {done && (
        <p>
          {brand} has your answer: {answer} of {greatest}. Another press in the email changes it.
        </p>
      )}
      {waiting && (
        <Form method="post">
          <p className="mb-4">
            You chose {answer} of {greatest}.
          </p>
          <button type="submit" className={buttonLook("primary")}>
            Send my answer
          </button>
        </Form>
      )}
    </main>
  );
}
