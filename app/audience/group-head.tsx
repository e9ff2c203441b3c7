import { Download, Pencil } from "lucide-react";
import { useNavigate, useRevalidator } from "react-router";
import type { Group } from "~/server/audience/selection";
import type { RuleWords } from "~/server/audience/words";
import type { Use } from "~/server/mentions";
import { RuleSentence } from "../rules/rule-words";
import { Button, buttonLook } from "../ui/button";
import { RemoveButton } from "../ui/remove-button";
import { counted } from "../ui/time";
import { SizeLine } from "./size-line";

export interface GroupFacts {
  group: Group;
  name: string;
  about: string;
  /** Of a list: whether readers may choose it. */
  topic: boolean;
  sizes: { day: string; size: number }[];
  uses: Use[];
}

/** The group whose contacts are shown: what it is, how it grew, where it is used. */
export function GroupHead({
  facts: { group, name, about, topic, sizes, uses },
  words,
  onEdit,
}: {
  facts: GroupFacts;
  words: RuleWords;
  onEdit(): void;
}) {
  const navigate = useNavigate();
  const { revalidate } = useRevalidator();
  const segment = group.kind === "segment" ? words.segments.find(({ id }) => id === group.id) : undefined;
  const own = group.kind === "segment" || group.kind === "list";
  const used = uses.map(({ kind, name: other }) => (kind === "campaign" ? other : `${kind} ${other}`));
  return (
    <header className="mb-3 flex flex-wrap items-start gap-x-4 gap-y-2">
      <div className="min-w-0 grow basis-72">
        <h2 className="text-[17px]/6 font-semibold break-words">{name}</h2>
        {segment ? (
          <p className="text-ink-soft">
            <RuleSentence rule={segment.rule} words={words} />
          </p>
        ) : (
          about !== "" && <p className="text-ink-soft">{about}</p>
        )}
        {own && (
          <p className="text-xs/5 text-ink-soft">
            {topic && "Readers may choose it on the preference page. "}
            {used.length === 0
              ? "Used nowhere."
              : `Used in ${used.slice(0, 3).join(", ")}${used.length > 3 ? ` and ${counted(used.length - 3, "other")}` : ""}.`}
          </p>
        )}
        <SizeLine sizes={sizes} />
      </div>
      <div className="flex items-center gap-2">
        {own && (
          <Button onClick={onEdit}>
            <Pencil className="size-4" aria-hidden /> {group.kind === "segment" ? "Edit the rule" : "Edit"}
          </Button>
        )}
        <a
          className={buttonLook()}
          href={`/audience/export/contacts.csv?${new URLSearchParams({ kind: group.kind, id: group.id })}`}
          download
        >
          <Download className="size-4" aria-hidden /> CSV
        </a>
        {own && (
          <RemoveButton
            kind={group.kind as "segment" | "list"}
            id={group.id}
            name={name}
            consequence={
              group.kind === "segment"
                ? "Rules that ask for it can no longer be answered, and stop a sending, until they are changed."
                : "Rules and readers that ask for it find nobody on it any more; the contacts stay."
            }
            onChange={(removed) => {
              if (removed) navigate("/audience");
              void revalidate();
            }}
          />
        )}
      </div>
    </header>
  );
}
