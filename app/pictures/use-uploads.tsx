import { Check, CircleAlert, X } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { IconButton } from "../ui/button";
import { Progress } from "../ui/progress";
import { counted } from "../ui/time";
import { type TakenPicture, takeFromAddress, uploadPicture } from "./upload";

/** So many go at the same time. */
const AT_ONCE = 3;

/** One picture on its way in. */
export interface Upload {
  key: number;
  name: string;
  /** How much of it has gone, from 0 to 1; null while it waits. */
  share: number | null;
  picture?: TakenPicture;
  problem?: string;
}

/** Takes pictures in, a few at a time, and says of each how it went. */
export function useUploads(onTaken: (picture: TakenPicture) => void) {
  const [uploads, setUploads] = useState<readonly Upload[]>([]);
  const queue = useRef<{ key: number; run(onShare: (share: number) => void): Promise<TakenPicture> }[]>([]);
  const going = useRef(0);
  const next = useRef(0);
  const taken = useRef(onTaken);
  useEffect(() => {
    taken.current = onTaken;
  });
  const change = useCallback((key: number, part: Partial<Upload>) => {
    setUploads((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)));
  }, []);
  const go = useCallback(() => {
    while (going.current < AT_ONCE) {
      const one = queue.current.shift();
      if (!one) return;
      going.current += 1;
      change(one.key, { share: 0 });
      one
        .run((share) => change(one.key, { share }))
        .then((picture) => {
          change(one.key, { share: 1, picture });
          taken.current(picture);
        })
        .catch((error: Error) => change(one.key, { problem: error.message }))
        .finally(() => {
          going.current -= 1;
          go();
        });
    }
  }, [change]);
  const add = useCallback(
    (ones: { name: string; run(onShare: (share: number) => void): Promise<TakenPicture> }[]) => {
      const fresh = ones.map(({ name, run }) => ({ key: next.current++, name, run }));
      queue.current.push(...fresh);
      setUploads((all) => [...all, ...fresh.map(({ key, name }) => ({ key, name, share: null }))]);
      go();
    },
    [go],
  );
  const addFiles = useCallback(
    (files: Iterable<File>, folder = "") =>
      add(
        [...files].map((file) => ({
          name: file.name,
          run: (onShare) => uploadPicture(file, onShare, folder),
        })),
      ),
    [add],
  );
  const addAddress = useCallback(
    (address: string) => add([{ name: address, run: () => takeFromAddress(address) }]),
    [add],
  );
  return { uploads, addFiles, addAddress, clear: useCallback(() => setUploads([]), []) };
}

/** How far each of the pictures is that are coming in, and what went wrong. */
export function UploadList({ uploads, onClear }: { uploads: readonly Upload[]; onClear(): void }) {
  if (uploads.length === 0) return null;
  const settled = uploads.filter((one) => one.picture || one.problem).length;
  const failed = uploads.filter((one) => one.problem);
  const known = uploads.filter((one) => one.picture?.known).length;
  const noted = uploads.filter((one) => (one.picture?.notes.length ?? 0) > 0);
  const done = settled === uploads.length;
  const share = uploads.reduce(
    (sum, one) => sum + (one.picture || one.problem ? 1 : (one.share ?? 0) * 0.9),
    0,
  );
  return (
    <section
      aria-label="Pictures coming in"
      className="fixed right-4 bottom-4 z-30 flex max-h-[60vh] w-96 max-w-[calc(100vw-2rem)] flex-col gap-2 rounded-lg border bg-paper p-4 shadow-xl"
    >
      <div className="flex items-center gap-2" role="status">
        <p className="grow font-medium">
          {done
            ? `${counted(settled - failed.length, "picture")} taken in${known > 0 ? `, ${known} of them here already` : ""}`
            : `Taking in ${settled + 1} of ${counted(uploads.length, "picture")}…`}
        </p>
        {done && <IconButton icon={X} label="Close" onClick={onClear} />}
      </div>
      {!done && <Progress share={share / uploads.length} label="Taken in so far" />}
      {failed.length + noted.length > 0 && (
        <ul className="min-h-0 space-y-1.5 overflow-y-auto">
          {failed.map((one) => (
            <li key={one.key} className="flex gap-2 text-red">
              <CircleAlert className="mt-0.5 size-4 shrink-0" aria-hidden />
              <span className="min-w-0 break-words">{one.problem}</span>
            </li>
          ))}
          {noted.map((one) => (
            <li key={one.key} className="flex gap-2 text-ink-soft">
              <Check className="mt-0.5 size-4 shrink-0" aria-hidden />
              <span className="min-w-0 break-words">
                “{one.name}”: {one.picture?.notes.join(" ")}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
