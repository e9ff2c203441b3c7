import { ChevronsUpDown, User } from "lucide-react";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { type Contact, contactName } from "~/core/audience";
import { ask } from "../requests";
import { Popover } from "../ui/floating";
import { Problem, SearchInput } from "../ui/form";
import { useAnswer } from "../ui/use-answer";

/** What tells one reader from another at a glance. */
function readerFacts(contact: Contact): string {
  const { fields } = contact;
  const zone = typeof fields.growing_zone === "string" ? `${fields.growing_zone} zone` : null;
  return [zone, fields["branch.name"], fields.plot, fields.member === true ? "member" : null]
    .filter((fact): fact is string => typeof fact === "string")
    .join(" · ");
}

/** Looks readers up by name or address; `onPick` gets the chosen one. */
function ReaderSearch({ onPick }: { onPick(contact: Contact): void }) {
  const [text, setText] = useState("");
  const {
    last: found,
    lastKey: sought,
    problem,
  } = useAnswer(text, (signal) => ask("/readers/search", { query: { q: text }, signal }), 150);
  return (
    <div>
      <div className="border-b p-2">
        <SearchInput
          autoFocus
          aria-label="Look for a reader"
          placeholder="Name or address"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </div>
      <ul className="max-h-72 overflow-y-auto p-1" aria-label="Readers found">
        {problem && (
          <li className="p-2">
            <Problem>{problem}</Problem>
          </li>
        )}
        {found?.contacts.map((contact) => (
          <li key={contact.id}>
            <button
              type="button"
              className="block w-full rounded px-2 py-1.5 text-left hover:bg-teal-wash focus-visible:bg-teal-wash"
              onClick={() => onPick(contact)}
            >
              <span className="block truncate font-medium">{contactName(contact)}</span>
              <span className="block truncate text-xs text-ink-soft">
                {readerFacts(contact) || contact.email}
              </span>
            </button>
          </li>
        ))}
        {found && found.contacts.length === 0 && (
          <li className="p-3 text-ink-soft">Nobody matches “{sought}”.</li>
        )}
      </ul>
    </div>
  );
}

/** The reader an email is looked at as, with a way to choose another by the address of the page. */
export function ReaderPicker({ contact }: { contact: Contact | null }) {
  const [open, setOpen] = useState(false);
  const [, setParams] = useSearchParams();
  return (
    <ReaderPopover
      contact={contact}
      open={open}
      onOpen={setOpen}
      onPick={(picked) => {
        setParams({ reader: String(picked.id) }, { replace: true });
        setOpen(false);
      }}
    />
  );
}

export function ReaderPopover({
  contact,
  open,
  onOpen,
  onPick,
}: {
  contact: Contact | null;
  open: boolean;
  onOpen(open: boolean): void;
  onPick(contact: Contact): void;
}) {
  return (
    <Popover
      align="start"
      className="w-80 p-0!"
      open={open}
      onOpen={onOpen}
      button={
        <button
          type="button"
          className="flex h-8 max-w-full items-center gap-2 rounded-md bg-teal-wash px-2.5 text-teal hover:bg-[#d5ece9]"
        >
          <User className="size-4 shrink-0" aria-hidden />
          <span className="truncate">
            <strong>{contact ? contactName(contact) : "Nobody"}</strong> {contact && readerFacts(contact)}
          </span>
          <ChevronsUpDown className="size-3.5 shrink-0" aria-hidden />
        </button>
      }
    >
      <ReaderSearch onPick={onPick} />
    </Popover>
  );
}
