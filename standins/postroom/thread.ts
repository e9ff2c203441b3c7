/** The postroom in a thread of its own (`apart.ts`): whoever sends to it has a thread for themselves. */
import { parentPort, workerData } from "node:worker_threads";
import { expose } from "comlink";
import nodeEndpoint from "comlink/dist/umd/node-adapter.js";
import { openPostroom } from ".";
import type { ApartOptions } from "./apart";

const { folder, ...around } = workerData as ApartOptions & { folder: string };
expose(await openPostroom(folder, { ...around, now: Date.now }), nodeEndpoint(parentPort!));
