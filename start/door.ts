/** The door for other systems, over HTTP: its paths, and how large what comes may be. */
import { type NextFunction, type Request, type Response, Router, text } from "express";
import { knock } from "~/server/door/door";
import { openApi } from "~/server/door/openapi";
import type { Septima } from "~/server/septima";

/** A batch of a thousand orders has room in it. */
const GREATEST = "10mb";

/** What stands under `/in`. Requests need a key, and come from no page: what a browser sends along counts for nothing. */
export function doorFor(septima: Septima): Router {
  const router = Router();
  router.get("/openapi.json", (_request, response) => {
    response.json(openApi(septima.config.origin, septima.config.version));
  });
  router.post(
    "/:what",
    text({ type: () => true, limit: GREATEST, defaultCharset: "utf-8" }),
    async (request: Request, response: Response) => {
      const body = typeof request.body === "string" ? request.body : "";
      const said = await knock(septima, String(request.params.what), request.headers.authorization, body);
      if (said.status === 401) response.setHeader("WWW-Authenticate", "Bearer");
      if ("wait" in said && said.wait) response.setHeader("Retry-After", String(said.wait));
      response.status(said.status).json(said.body);
    },
  );
  router.use((request: Request, response: Response) => {
    response.status(request.path === "/" ? 404 : 405).json({
      problem: "Batches are sent by POST. /in/openapi.json says where, and what they hold.",
      wrong: [],
    });
  });
  router.use(
    (
      error: Error & { status?: number; type?: string },
      _: Request,
      response: Response,
      next: NextFunction,
    ) => {
      if (response.headersSent) return next(error);
      const ours = error.status === undefined || error.status >= 500;
      if (ours) console.error(error);
      const problem =
        error.type === "entity.too.large"
          ? `A batch may have ${GREATEST.replace("mb", " MB")}. Send it in parts.`
          : ours
            ? "It could not be done. Send the batch again under the same name: it counts once."
            : error.message;
      response.status(ours ? 500 : 400).json({ problem, wrong: [] });
    },
  );
  return router;
}
