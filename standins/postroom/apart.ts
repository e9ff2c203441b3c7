import { Worker } from "node:worker_threads";
import { wrap } from "comlink";
import nodeEndpoint from "comlink/dist/umd/node-adapter.js";
import type { Postroom, PostroomOptions } from ".";

export type ApartOptions = Omit<PostroomOptions, "now">;

/**
 * The postroom in a thread of its own: what is sent to it in numbers is taken by another processor than the one that sends.
 * Where it breaks, the whole process does, as if it were no other thread.
 * @param file what the thread runs: what the build made of `thread.ts`
 * @param folder of its messages
 */
export async function openPostroomApart(
  file: string | URL,
  folder: string,
  options: ApartOptions,
): Promise<Postroom> {
  const worker = new Worker(file, { workerData: { folder, ...options } });
  const apart = wrap<Postroom>(nodeEndpoint(worker));
  return {
    address: await apart.address,
    search: (query) => apart.search(query),
    // What passes between threads are octets, no buffers of Node.
    async source(id) {
      const octets = await apart.source(id);
      return octets && Buffer.from(octets.buffer, octets.byteOffset, octets.byteLength);
    },
    arrivedOrNever: (messageIds) => apart.arrivedOrNever(messageIds),
    empty: () => apart.empty(),
    manners: () => apart.manners(),
    behave: (manners) => apart.behave(manners),
    living: () => apart.living(),
    live: (life) => apart.live(life),
    async close() {
      await apart.close();
      await worker.terminate();
    },
  };
}
