import { randomBytes } from "node:crypto";
import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { type EntryContext, ServerRouter } from "react-router";
import { NonceContext } from "./nonce";

export const streamTimeout = 5000;

/**
 * What a page may do: run our own scripts and talk with us. Pictures may come from elsewhere, since feeds name theirs;
 * an email shown in a page is under the same policy, and in a frame that runs nothing besides.
 */
function pagePolicy(nonce: string): string {
  return [
    "default-src 'none'",
    `script-src 'self' 'nonce-${nonce}'`,
    "worker-src 'self' blob:",
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob: https: http:",
    "font-src 'self' data:",
    "connect-src 'self'",
    "frame-src 'self'",
    "form-action 'self'",
    "base-uri 'none'",
    "frame-ancestors 'none'",
  ].join("; ");
}

/** Writes a page as a stream, with a policy that lets only the scripts run that the page itself names. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
): Promise<Response> {
  const nonce = randomBytes(16).toString("base64");
  headers.set("Content-Type", "text/html; charset=utf-8");
  headers.set("Content-Security-Policy", pagePolicy(nonce));
  if (request.method === "HEAD") return Promise.resolve(new Response(null, { status, headers }));
  return new Promise((resolve, reject) => {
    let begun = false;
    let code = status;
    // Programs that read pages get them whole.
    const ready = isbot(request.headers.get("user-agent")) ? "onAllReady" : "onShellReady";
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext.Provider value={nonce}>
        <ServerRouter context={context} url={request.url} nonce={nonce} />
      </NonceContext.Provider>,
      {
        nonce,
        [ready]() {
          begun = true;
          const body = new PassThrough({
            final(done) {
              clearTimeout(timer);
              done();
            },
          });
          pipe(body);
          resolve(new Response(createReadableStreamFromReadable(body), { status: code, headers }));
        },
        onShellError: reject,
        onError(error: unknown) {
          code = 500;
          if (begun) console.error(error);
        },
      },
    );
    const timer = setTimeout(abort, streamTimeout + 1000);
  });
}
