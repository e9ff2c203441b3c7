/** A file as an answer. `name` makes browsers keep it as a file of that name. */
export function fileAnswer(type: string, data: Uint8Array | string, name?: string): Response {
  return new Response(typeof data === "string" ? data : new Uint8Array(data), {
    headers: {
      "content-type": type,
      "cache-control": "no-store",
      "x-content-type-options": "nosniff",
      ...(name !== undefined && {
        "content-disposition": `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, "_")}"; filename*=UTF-8''${encodeURIComponent(name)}`,
      }),
    },
  });
}
