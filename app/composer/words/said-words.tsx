import { type Inline, isRichDoc, lineTyped, type RichNode, type SaidThere } from "~/core/email";
import { type Around, lineSaid } from "~/core/personal";
import { directionOf } from "~/core/program";
import { useComposer } from "../state/store";
import { around, tagWords } from "../state/values";

/** Words as they are said in a language, to be read beside others: with what the reader on the canvas gets for tags. */
export function SaidWords({ said, language }: { said: SaidThere; language: string }) {
  const email = useComposer((state) => state.email);
  const facts = useComposer((state) => state.facts);
  const reader = useComposer((state) => state.reader);
  const about = around({ email, facts, reader });
  const line = (content: readonly Inline[]) => <Line content={content} about={about} />;
  const nodes = (all: readonly RichNode[]) =>
    all.map((node, at) => {
      // Paragraphs have no ids of their own.
      const key = `${at}`;
      if (node.type === "paragraph") return <p key={key}>{line(node.content ?? [])}</p>;
      const List = node.type === "bulletList" ? "ul" : "ol";
      return (
        <List key={key} className={node.type === "bulletList" ? "list-disc pl-5" : "list-decimal pl-5"}>
          {node.content.map((item, which) => {
            const of = `${which}`;
            return <li key={of}>{nodesOf(item.content)}</li>;
          })}
        </List>
      );
    });
  const nodesOf = (all: readonly RichNode[]): ReturnType<typeof nodes> => nodes(all);
  return (
    <div lang={language} dir={directionOf(language)} className="space-y-1 wrap-anywhere whitespace-pre-wrap">
      {typeof said === "string"
        ? line(lineTyped(said))
        : isRichDoc(said)
          ? nodes(said.content)
          : Array.isArray(said) && line(said)}
    </div>
  );
}

function Line({ content, about }: { content: readonly Inline[]; about: Around }) {
  const reader = useComposer((state) => state.reader);
  return content.map((it, at) => {
    const key = `${at}`;
    const bold = it.marks?.some(({ type }) => type === "bold") ? "font-semibold" : "";
    const linked = it.marks?.some(({ type }) => type === "link") ? "underline" : "";
    if (it.type === "hardBreak") return <br key={key} />;
    if (it.type === "text")
      return (
        <span key={key} className={`${bold} ${linked}`}>
          {it.text}
        </span>
      );
    return (
      <span
        key={key}
        className="reader-value"
        title={it.type === "mergeTag" ? `Reader data: ${it.attrs.field.replaceAll("_", " ")}` : "Either/or"}
      >
        {it.type === "mergeTag" ? tagWords(it.attrs, reader, about) : lineSaid([it], reader, about) || "…"}
      </span>
    );
  });
}
