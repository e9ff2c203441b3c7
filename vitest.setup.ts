/** Files share their modules and globals: what stood in for one in a file's last test is put back before the next file. */
import { afterAll, vi } from "vitest";

afterAll(() => {
  vi.unstubAllGlobals();
});
