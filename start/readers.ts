/** What readers reach by the addresses in their messages that count: each leads on, or is a picture of one point. */
import { type Request, type Response, Router } from "express";
import { Counting } from "~/server/readers/counting";
import { type Done, followLink, openedBy } from "~/server/readers/links";
import { Refusal } from "~/server/refusal";
import type { Septima } from "~/server/septima";

/** One transparent point (GIF89a). */
const POINT = Buffer.from("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7", "base64");

/** The doors of links and openings. `end` writes down what has come. */
export function readersDoors(septima: Septima): { router: Router; end(): Promise<void> } {
  const counting = new Counting(septima);
  const router = Router();
  const count = (done: Done, request: Request) =>
    counting.add({
      ...done,
      at: septima.now(),
      agent: request.get("user-agent") ?? "",
      headOnly: request.method === "HEAD",
    });
  const answer = async (response: Response, work: () => Promise<void>) => {
    response.set({
      "cache-control": "no-store",
      "x-robots-tag": "noindex",
      "referrer-policy": "no-referrer",
    });
    try {
      await work();
    } catch (error) {
      const known = error instanceof Refusal;
      response
        .status(known ? error.status : 503)
        .type("text/plain; charset=utf-8")
        .send(known ? error.message : "This does not work at the moment. Try again in a few minutes.");
    }
  };
  router.get("/c/:token", (request, response) =>
    answer(response, async () => {
      const { to, done } = await followLink(septima, request.params.token);
      count(done, request);
      response.redirect(302, to);
    }),
  );
  router.get("/o/:token", (request, response) =>
    answer(response, async () => {
      count(await openedBy(septima, request.params.token.replace(/\.gif$/, "")), request);
      response.type("image/gif").send(POINT);
    }),
  );
  return { router, end: () => counting.flush() };
}
