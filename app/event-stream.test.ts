import { expect, test } from "vitest";
import { eventStream } from "./event-stream";

test("what is told goes on until it is closed, and only to who asks for it so", async () => {
  const stopping = new AbortController();
  let closed: AbortSignal | undefined;
  const asked = (accept?: string) =>
    eventStream<number>(
      new Request("https://septima.example/", accept ? { headers: { accept } } : {}),
      stopping.signal,
      async (told, until) => {
        closed = until;
        told(1);
      },
    );
  await expect(asked()).rejects.toMatchObject({ status: 406 });
  await expect(asked("*/*")).rejects.toMatchObject({ status: 406 });
  const response = await asked("text/event-stream");
  const reader = response.body!.getReader();
  expect(new TextDecoder().decode((await reader.read()).value)).toBe("data: 1\n\n");
  stopping.abort();
  expect((await reader.read()).done).toBe(true);
  expect(closed?.aborted).toBe(true);
});
