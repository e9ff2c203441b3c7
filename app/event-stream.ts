/** What happens, told as it happens (server-sent events, HTML Living Standard, 9.2). */

/**
 * An answer that goes on until the page or the program ends.
 * @throws a response 406 for who does not ask for such an answer
 * @param follow tells from now on, until `closed`; what it throws before it resolves is the answer instead
 */
export async function eventStream<T>(
  request: Request,
  stopping: AbortSignal,
  follow: (told: (it: T) => void, closed: AbortSignal) => Promise<void>,
): Promise<Response> {
  // Whoever asks for it as for a value would wait for its end.
  if (!request.headers.get("accept")?.includes("text/event-stream"))
    throw new Response("This is told as it happens: ask for text/event-stream.", { status: 406 });
  const closing = new AbortController();
  const closed = AbortSignal.any([closing.signal, request.signal, stopping]);
  const words = new TextEncoder();
  const said: T[] = [];
  let left = false;
  let say: (it: T) => void = (it) => said.push(it);
  try {
    await follow((it) => say(it), closed);
  } catch (error) {
    closing.abort();
    throw error;
  }
  const body = new ReadableStream<Uint8Array>({
    start(stream) {
      say = (it) => stream.enqueue(words.encode(`data: ${JSON.stringify(it)}\n\n`));
      for (const it of said) say(it);
      closed.addEventListener("abort", () => {
        if (!left) stream.close();
      });
    },
    cancel() {
      left = true;
      closing.abort();
    },
  });
  return new Response(body, {
    headers: {
      "content-type": "text/event-stream",
      "cache-control": "no-cache, no-transform",
      // What stands in front of the program passes it on at once.
      "x-accel-buffering": "no",
    },
  });
}
