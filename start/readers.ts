/**
 * What readers reach by their letters, whoever and wherever they are: links and openings that count, pages, and the files that
 * letters are made with. It needs nothing of the interface and no session, and stands alone where a process is for readers only.
 */
import { createHash } from "node:crypto";
import compression from "compression";
import { type Request, type Response, Router } from "express";
import { calendarEntry, iCalendar } from "~/core/email";
import { languagesAsked } from "~/core/readers";
import { pictureFile } from "~/server/pictures/files";
import { shapedFile } from "~/server/pictures/shaped";
import { Counting } from "~/server/readers/counting";
import { type Done, followLink, openedBy } from "~/server/readers/links";
import { PAGES, troublePage } from "~/server/readers/pages";
import { ReadersRefusal, Refusal } from "~/server/refusal";
import type { Septima } from "~/server/septima";
import { clockFile, drawingFile, glyphFile, playFile, tillFile } from "~/server/workspace/drawn";
import { fontFile } from "~/server/workspace/fonts";

/** One transparent point (GIF89a). */
const POINT = Buffer.from("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7", "base64");
/** The most octets that a form of readers has. */
const FORM = 64_000;
const YEAR = 31_536_000;

/** What every answer to readers says: nobody keeps it, finds it by searching, or is told where they came from. */
const GUARDED = {
  "cache-control": "no-store",
  "x-robots-tag": "noindex",
  "referrer-policy": "no-referrer",
};
/** Pages run nothing and send to us alone. */
const PAGE_POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; img-src 'self' https: http:; font-src 'self' https:; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";
/** A letter runs nothing, sends nothing, and shows pictures from wherever it says. */
const LETTER_POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; img-src * data:; font-src *; form-action 'none'; base-uri 'none'; frame-ancestors 'none'; sandbox allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation";

const languagesOf = (request: Request) => languagesAsked(request.get("accept-language") ?? "");

/** A file of letters: it never changes under its name, but for those that are drawn anew each time. */
interface LetterFile {
  type: string;
  data: Buffer | string;
  changes?: true;
  /** The name under which it is kept, where it is not shown. */
  name?: string;
}

const png = async (data: Promise<Buffer>): Promise<LetterFile> => ({ type: "image/png", data: await data });

/** The files that letters are made with, each by its path. */
const FILES: Record<
  string,
  (septima: Septima, request: Request<Record<string, string>>) => Promise<LetterFile | { to: string }>
> = {
  "/pictures/:picture/play": (septima, { params }) => playFile(septima, params.picture),
  "/pictures/:picture{/:width}": (septima, { params: { picture, width } }) =>
    pictureFile(septima, picture, width === undefined ? undefined : Number(width)),
  "/drawings/:file": (_, { params }) => png(drawingFile(params.file)),
  "/shaped/:ratio/:width/:source": (septima, { params: { ratio, width, source }, query: { id } }) =>
    shapedFile(septima, ratio, Number(width), source, String(id)),
  "/glyphs/:file": (_, { params }) => png(glyphFile(params.file)),
  "/fonts/:file": async (septima, { params }) => ({
    type: "font/woff2",
    data: await fontFile(septima, params.file),
  }),
  "/clock/:file": async (septima, { params }) => ({
    ...(await png(clockFile(params.file, septima.now()))),
    changes: true,
  }),
  "/till/:kind/:file": async (_, { params: { kind, file } }) => png(tillFile(kind, file)),
  "/calendar.ics": async (septima, { url }) => {
    const { search, searchParams, hostname } = new URL(url, septima.config.readers);
    const entry = calendarEntry(searchParams);
    if (!entry) throw new ReadersRefusal("noComplete");
    const uid = `${createHash("sha256").update(search).digest("hex").slice(0, 32)}@${hostname}`;
    return {
      type: "text/calendar; charset=utf-8",
      data: iCalendar(entry, uid, septima.now()),
      changes: true,
      name: "appointment.ics",
    };
  },
};

/**
 * How the addresses begin by which readers reach us. A proxy in front of Septima lets these through to the world, and nothing
 * else; nothing of the interface stands below them.
 */
export const READERS: readonly string[] = [
  ...new Set([
    ...PAGES.map(({ under }) => under.replace(/^(\/\w+\/).*/, "$1")),
    "/c/",
    "/o/",
    ...Object.keys(FILES).map((path) => /^\/(\w+\/|[\w.]+$)/.exec(path)![0]),
  ]),
];

function sendFile(response: Response, file: LetterFile | { to: string }): void {
  if ("to" in file) {
    response.set("cache-control", "no-store").redirect(302, file.to);
    return;
  }
  const { type, data, changes, name } = file;
  response
    .set({
      "content-type": type,
      "cache-control": changes ? "no-store" : `public, max-age=${YEAR}, immutable`,
      // Letters are read wherever they are, and a browser wants to be told that all may have what they are made with.
      "access-control-allow-origin": "*",
      "cross-origin-resource-policy": "cross-origin",
      ...(name !== undefined && { "content-disposition": `attachment; filename="${name}"` }),
    })
    .send(typeof data === "string" ? Buffer.from(data) : data);
}

/** The form that was sent, in either way that forms are (RFC 8058, 3.2). @throws ReadersRefusal when it is too large or none */
async function formOf(request: Request): Promise<FormData> {
  const pieces: Buffer[] = [];
  let octets = 0;
  for await (const piece of request as AsyncIterable<Buffer>) {
    octets += piece.length;
    if (octets > FORM) throw new ReadersRefusal("noTooMuch", 413);
    pieces.push(piece);
  }
  const type = request.get("content-type") ?? "";
  try {
    return await new globalThis.Response(Buffer.concat(pieces), {
      headers: { "content-type": type },
    }).formData();
  } catch {
    throw new ReadersRefusal("noButton", 400);
  }
}

/** The doors of readers. `end` writes down what has come. */
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
  const answered =
    (work: (request: Request<Record<string, string>>, response: Response) => Promise<void>) =>
    (request: Request, response: Response) =>
      work(request as Request<Record<string, string>>, response).catch((error) =>
        sayTrouble(septima, error, request, response),
      );

  router.get(
    "/c/:token",
    answered(async (request, response) => {
      const { to, done } = await followLink(septima, request.params.token);
      count(done, request);
      response.set(GUARDED).redirect(302, to);
    }),
  );
  router.get(
    "/o/:token",
    answered(async (request, response) => {
      count(await openedBy(septima, request.params.token.replace(/\.gif$/, "")), request);
      response.set(GUARDED).type("image/gif").send(POINT);
    }),
  );
  for (const [path, file] of Object.entries(FILES))
    router.get(
      path,
      answered(async (request, response) => sendFile(response, await file(septima, request))),
    );
  router.use(compression());
  for (const { under, page, sends } of PAGES) {
    const visit = answered(async (request, response) => {
      const { path, query } = splitUrl(request.originalUrl);
      const answer = await page(septima, {
        path: path.slice(under.length).split("/").map(decoded),
        form: request.method === "POST" ? await formOf(request) : null,
        query,
        languages: languagesOf(request),
      });
      if ("to" in answer) response.set(GUARDED).redirect(303, answer.to);
      else sayPage(response, answer);
    });
    router.get(`${under}*rest`, visit);
    if (sends) router.post(`${under}*rest`, visit);
  }
  return { router, end: () => counting.flush() };
}

const splitUrl = (url: string) => {
  const at = url.indexOf("?");
  return at < 0 ? { path: url, query: "" } : { path: url.slice(0, at), query: url.slice(at + 1) };
};

/** A piece of a path as it is meant. @throws ReadersRefusal (404) for one that means nothing */
function decoded(piece: string): string {
  try {
    return decodeURIComponent(piece);
  } catch {
    throw new ReadersRefusal("noComplete");
  }
}

/** Whatever else is asked of a process that is for readers alone, or by their name: there is nothing. */
export const nothingElse =
  (septima: Septima) =>
  (request: Request, response: Response): Promise<void> =>
    sayTrouble(septima, new ReadersRefusal("noPage"), request, response);

function sayPage(
  response: Response,
  { html, status = 200, letter }: { html: string; status?: number; letter?: true },
): void {
  response
    .status(status)
    .set({ ...GUARDED, "content-security-policy": letter ? LETTER_POLICY : PAGE_POLICY })
    .type("html")
    .send(html);
}

/** Tells a reader that something did not work, and us when it is a fault of ours. */
async function sayTrouble(
  septima: Septima,
  error: unknown,
  request: Request,
  response: Response,
): Promise<void> {
  if (!(error instanceof Refusal)) console.error(error);
  const trouble = await troublePage(septima, error, languagesOf(request));
  // What did not come to its end is not waited for.
  if (trouble.status === 413) response.set("connection", "close");
  sayPage(response, trouble);
}
