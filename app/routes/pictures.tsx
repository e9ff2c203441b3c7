import clsx from "clsx";
import { Archive, Clock, Folder, Images, Link2, type LucideIcon, Tag, Unlink } from "lucide-react";
import { useDeferredValue, useEffect, useMemo, useState } from "react";
import type { ShouldRevalidateFunctionArgs } from "react-router";
import { PictureEditor } from "../pictures/editor/picture-editor";
import { Inspector } from "../pictures/inspector";
import { PictureGrid } from "../pictures/picture-grid";
import { SeveralPictures } from "../pictures/several";
import { picturesAmong } from "../pictures/upload";
import { type Sought, usePictureList } from "../pictures/use-picture-list";
import { UploadList, useUploads } from "../pictures/use-uploads";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { FileButton } from "../ui/file-button";
import { Input, Problem, SearchInput } from "../ui/form";
import { Empty } from "../ui/page";
import { count } from "../ui/time";
import { useAddress } from "../ui/use-address";
import type { Route } from "./+types/pictures";

/** What is taken, for the file choice of the system. */
const TAKEN = "image/*,.heic,.heif";

export function loader({ context: { septima } }: Route.LoaderArgs) {
  return { now: septima.now() };
}

/** What is sought is asked for by the list itself. */
export function shouldRevalidate({ currentUrl, nextUrl }: ShouldRevalidateFunctionArgs) {
  return currentUrl.pathname !== nextUrl.pathname;
}

const WHICH = ["recent", "unused", "archived"] as const;

/** What the address asks for: a folder, a label, those used lately or not at all, those put away. */
function soughtIn(params: URLSearchParams): Sought {
  const order = params.get("order");
  return {
    words: params.get("q") ?? "",
    ...(params.has("folder") && { folder: params.get("folder") ?? "" }),
    ...(params.has("label") && { label: params.get("label") ?? "" }),
    which: WHICH.find((which) => which === params.get("which")) ?? "all",
    order: order === "name" || order === "heaviest" ? order : "newest",
  };
}

export default function Pictures({ loaderData: { now } }: Route.ComponentProps) {
  const [params, change] = useAddress();
  const sought = soughtIn(params);
  const list = usePictureList(useDeferredValue(sought));
  const { uploads, addFiles, addAddress, clear } = useUploads(() => void list.reload());
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const asked = params.get("picture");
  useEffect(() => {
    if (asked) setChosen([asked]);
  }, [asked]);
  const [last, setLast] = useState(0);
  const [editing, setEditing] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const take = (files: Iterable<File>) => addFiles(files, sought.folder);
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      if (event.target instanceof Element && event.target.closest("input, textarea")) return;
      const files = picturesAmong(event.clipboardData?.files ?? []);
      const text = event.clipboardData?.getData("text/plain").trim() ?? "";
      if (files) addFiles(files);
      else if (/^https?:\/\/\S+$/.test(text)) addAddress(text);
      else return;
      event.preventDefault();
    };
    window.addEventListener("paste", paste);
    return () => window.removeEventListener("paste", paste);
  }, [addFiles, addAddress]);
  const choose = (index: number, how: "only" | "more" | "upTo") => {
    const picture = list.at(index);
    if (!picture) return;
    if (how === "more")
      setChosen((all) =>
        all.includes(picture.id) ? all.filter((id) => id !== picture.id) : [...all, picture.id],
      );
    else if (how === "upTo") {
      const [from, to] = [Math.min(last, index), Math.max(last, index)];
      const between = Array.from({ length: to - from + 1 }, (_, at) => list.at(from + at)?.id);
      setChosen(between.filter((id) => id !== undefined));
    } else setChosen([picture.id]);
    if (how !== "upTo") setLast(index);
  };
  const pictures = useMemo(() => {
    if (chosen.length < 2) return [];
    const all = Array.from({ length: list.total ?? 0 }, (_, index) => list.at(index));
    return all.filter((one) => one !== undefined && chosen.includes(one.id)) as NonNullable<
      ReturnType<typeof list.at>
    >[];
  }, [chosen, list]);
  const empty = list.total === 0;
  const { filing } = list;
  const none = filing !== null && filing.all + filing.archived === 0;
  const among = sought.which === "archived" ? filing?.archived : filing?.all;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: files fall on it, wherever they are let go
    <div
      className="flex h-screen max-lg:h-auto max-lg:flex-col"
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes("Files")) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files);
      }}
    >
      <title>Pictures · Septima</title>
      <main className={clsx("flex min-w-0 grow flex-col px-7 py-5 max-sm:px-4", over && "bg-mulberry-wash")}>
        <header className="mb-3 flex flex-wrap items-center gap-3">
          <h1 className="text-[22px]/7 font-semibold">Pictures</h1>
          <p className="text-ink-soft" role="status">
            {over
              ? "Let go to take them in"
              : list.total === null
                ? "Looking…"
                : `${count(list.total)}${among !== undefined && among !== list.total ? ` of ${count(among)}` : ""}`}
          </p>
          <div className="ml-auto flex flex-wrap items-center gap-2">
            <SearchInput
              className="w-52"
              aria-label="Search pictures"
              placeholder="Name, label, what it shows"
              defaultValue={sought.words}
              onChange={(event) => change({ q: event.target.value })}
            />
            <FromAddress onAddress={addAddress} />
            <FileButton label="Upload" kind="primary" many accept={TAKEN} onFile={(file) => take([file])} />
          </div>
        </header>
        <Places sought={sought} filing={filing} onChange={change} />
        {list.problem && (
          <div className="flex items-center gap-3">
            <Problem>{list.problem}</Problem>
            <Button onClick={() => void list.reload()}>Try again</Button>
          </div>
        )}
        {empty ? (
          <Empty title={none ? "No pictures yet" : "No picture fits"}>
            {none
              ? "Drop photographs and drawings anywhere on this page, paste one, or upload them. They are made ready for email, and the originals are kept."
              : "Look for other words, or in all pictures."}
          </Empty>
        ) : (
          <PictureGrid
            label="Pictures"
            className="min-h-0 grow max-lg:h-[70vh]"
            total={list.total ?? 0}
            at={list.at}
            need={list.need}
            chosen={new Set(chosen)}
            onChoose={choose}
            onOpen={({ id }) => setEditing(id)}
          />
        )}
      </main>
      {chosen.length > 0 && (
        <aside
          aria-label={chosen.length === 1 ? "The picture" : "The pictures"}
          className="w-76 shrink-0 overflow-y-auto border-l bg-paper p-4 max-lg:w-full max-lg:border-t max-lg:border-l-0"
        >
          {chosen.length === 1 ? (
            <Inspector
              key={chosen[0]}
              id={chosen[0]}
              now={now}
              filing={filing}
              onEdit={() => setEditing(chosen[0])}
              onChanged={() => void list.reload()}
              onRemoved={(removed) => {
                if (removed) setChosen([]);
                void list.reload();
              }}
            />
          ) : (
            <SeveralPictures
              pictures={pictures}
              filing={filing}
              onChanged={() => void list.reload()}
              onNone={() => setChosen([])}
            />
          )}
        </aside>
      )}
      <UploadList uploads={uploads} onClear={clear} />
      {editing !== null && (
        <PictureEditor
          id={editing}
          onClose={() => setEditing(null)}
          onSaved={(picture) => {
            setEditing(null);
            setChosen([]);
            void list.reload().then(() => setChosen([picture.id]));
          }}
        />
      )}
    </div>
  );
}

/** So many stand side by side; more are in a list that can be searched. */
const FEW = { folders: 6, labels: 5 };

const inOrder = <T extends { name: string }>(all: readonly T[]): T[] =>
  all.toSorted((one, other) => one.name.localeCompare(other.name, "en", { numeric: true }));

/** Where to look: everything, what was used lately or never, one folder, one label. */
function Places({
  sought,
  filing,
  onChange,
}: {
  sought: Sought;
  filing: ReturnType<typeof usePictureList>["filing"];
  onChange(parts: Record<string, string | null>): void;
}) {
  const none = { which: null, folder: null, label: null };
  const place = (
    key: string,
    Icon: LucideIcon,
    label: string,
    pressed: boolean,
    parts: Record<string, string | null>,
    number?: number,
  ) => (
    <button
      key={key}
      type="button"
      aria-pressed={pressed}
      onClick={() => onChange({ ...none, ...(pressed && key !== "all" ? {} : parts) })}
      className="flex max-w-52 items-center gap-1.5 rounded-full border bg-paper px-2.5 py-1 font-medium hover:border-ink-soft aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-white"
    >
      <Icon className="size-3.5 shrink-0" strokeWidth={1.75} aria-hidden />
      <span className="truncate">{label}</span>
      {number !== undefined && <span className="opacity-70">{count(number)}</span>}
    </button>
  );
  const folders = inOrder(filing?.folders ?? []);
  const labels = inOrder(filing?.labels ?? []);
  const plain = sought.which === "all" && sought.folder === undefined && sought.label === undefined;
  return (
    <div className="mb-4 flex flex-wrap items-center gap-1.5">
      {place("all", Images, "All", plain, {})}
      {place("recent", Clock, "Lately", sought.which === "recent", { which: "recent" })}
      {place("unused", Unlink, "Unused", sought.which === "unused", { which: "unused" })}
      {(filing?.archived ?? 0) > 0 &&
        place(
          "archived",
          Archive,
          "Archived",
          sought.which === "archived",
          { which: "archived" },
          filing?.archived,
        )}
      {folders.length <= FEW.folders &&
        folders.map(({ name, count: number }) =>
          place(`folder ${name}`, Folder, name, sought.folder === name, { folder: name }, number),
        )}
      {labels.length <= FEW.labels &&
        labels.map(({ name, count: number }) =>
          place(`label ${name}`, Tag, name, sought.label === name, { label: name }, number),
        )}
      {folders.length > FEW.folders && (
        <Choose
          label="Folder"
          className="w-44"
          value={sought.folder ?? ""}
          placeholder={`${folders.length} folders`}
          options={folders.map(({ name, count: number }) => ({ value: name, label: name, aside: number }))}
          onChange={(folder) => onChange({ ...none, folder })}
        />
      )}
      {labels.length > FEW.labels && (
        <Choose
          label="Label"
          className="w-44"
          value={sought.label ?? ""}
          placeholder={`${labels.length} labels`}
          options={labels.map(({ name, count: number }) => ({ value: name, label: name, aside: number }))}
          onChange={(label) => onChange({ ...none, label })}
        />
      )}
      <div className="ml-auto w-36">
        <Choose
          label="Order"
          value={sought.order ?? "newest"}
          options={[
            { value: "newest", label: "Newest first" },
            { value: "name", label: "By name" },
            { value: "heaviest", label: "Heaviest first" },
          ]}
          onChange={(order) => onChange({ order: order === "newest" ? null : order })}
        />
      </div>
    </div>
  );
}

/** Takes a picture over from where it is on the web. */
function FromAddress({ onAddress }: { onAddress(address: string): void }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button onClick={() => setOpen(true)}>
        <Link2 className="size-4" aria-hidden /> From an address
      </Button>
    );
  return (
    <form
      className="flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const address = new FormData(event.currentTarget).get("address")?.toString().trim() ?? "";
        if (address !== "") onAddress(address);
        setOpen(false);
      }}
    >
      <Input
        name="address"
        aria-label="Address of a picture"
        placeholder="https://"
        autoFocus
        className="w-60"
        onKeyDown={(event) => event.key === "Escape" && setOpen(false)}
      />
      <Button type="submit">Take it</Button>
    </form>
  );
}
