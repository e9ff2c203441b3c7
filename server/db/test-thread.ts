/** The thread of the embedded database for tests. */
import { pathToFileURL } from "node:url";
import { bundled } from "../test-bundle";

export const THREAD = pathToFileURL(await bundled("server/db/thread.ts"));
