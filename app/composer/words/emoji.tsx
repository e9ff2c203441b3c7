import { SmilePlus } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { IconButton } from "../../ui/button";
import { Popover } from "../../ui/floating";
import { Input } from "../../ui/form";
import { lately } from "../../ui/lately";

interface Emoji {
  unicode: string;
  label: string;
  tags: string;
  group: number;
}

const GROUPS: { group: number; label: string; face: string }[] = [
  { group: 0, label: "Faces", face: "🙂" },
  { group: 1, label: "People", face: "👋" },
  { group: 3, label: "Animals and nature", face: "🌱" },
  { group: 4, label: "Food", face: "🍎" },
  { group: 5, label: "Travel and places", face: "⛅" },
  { group: 6, label: "Activities", face: "🎉" },
  { group: 7, label: "Objects", face: "✉️" },
  { group: 8, label: "Symbols", face: "✅" },
];
const LATELY = lately("septima emoji", 16);
const MOST = 240;

/** The list of emoji is large, so it comes when it is first asked for. */
let loading: Promise<Emoji[]> | null = null;
function allEmoji(): Promise<Emoji[]> {
  loading ??= import("emojibase-data/en/compact.json").then(({ default: list }) =>
    list.flatMap((it) =>
      it.group === undefined || it.group === 2
        ? []
        : [{ unicode: it.unicode, label: it.label, tags: (it.tags ?? []).join(" "), group: it.group }],
    ),
  );
  return loading;
}

/** Chooses an emoji; those used last come first. */
export function EmojiButton({
  className = "size-7!",
  label = "Emoji",
  onChoose,
}: {
  className?: string;
  label?: string;
  onChoose(emoji: string): void;
}) {
  return (
    <Popover
      label="Emoji"
      className="w-80"
      button={<IconButton icon={SmilePlus} label={label} className={className} />}
    >
      {(close) => (
        <EmojiList
          onChoose={(emoji) => {
            LATELY.note(emoji);
            close();
            onChoose(emoji);
          }}
        />
      )}
    </Popover>
  );
}

function EmojiList({ onChoose }: { onChoose(emoji: string): void }) {
  const [all, setAll] = useState<Emoji[] | null>(null);
  const [query, setQuery] = useState("");
  const [group, setGroup] = useState(3);
  useEffect(() => void allEmoji().then(setAll), []);
  const used = useMemo(LATELY.all, []);
  const wanted = query.trim().toLowerCase();
  const found = (all ?? []).filter((it) =>
    wanted === "" ? it.group === group : `${it.label} ${it.tags}`.toLowerCase().includes(wanted),
  );
  const shown = found.slice(0, MOST);
  const button = (unicode: string, label: string) => (
    <button
      key={unicode}
      type="button"
      title={label}
      aria-label={label}
      onClick={() => onChoose(unicode)}
      className="grid size-8 place-items-center rounded-md text-lg hover:bg-black/5"
    >
      {unicode}
    </button>
  );
  return (
    <>
      <Input
        aria-label="Find an emoji"
        placeholder="Find an emoji"
        autoFocus
        value={query}
        onChange={(event) => setQuery(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && shown[0]) onChoose(shown[0].unicode);
        }}
      />
      {wanted === "" && (
        <div role="group" aria-label="Kinds of emoji" className="mt-2 flex justify-between border-b pb-1">
          {GROUPS.map(({ group: number, label, face }) => (
            <button
              key={number}
              type="button"
              aria-label={label}
              title={label}
              aria-pressed={group === number}
              onClick={() => setGroup(number)}
              className="grid size-8 place-items-center rounded-md hover:bg-black/5 aria-pressed:bg-mulberry-wash"
            >
              {face}
            </button>
          ))}
        </div>
      )}
      <div className="mt-2 grid max-h-56 grid-cols-9 gap-0.5 overflow-y-auto">
        {wanted === "" && used.map((unicode) => button(unicode, `${unicode}, used lately`))}
        {shown.map((it) => button(it.unicode, it.label))}
      </div>
      {all === null && <p className="text-ink-soft">Fetching the list…</p>}
      {all !== null && shown.length === 0 && <p className="text-ink-soft">No emoji is called that.</p>}
      {found.length > MOST && (
        <p className="mt-1 text-xs text-ink-soft">
          The first {MOST} of {found.length}.
        </p>
      )}
    </>
  );
}
