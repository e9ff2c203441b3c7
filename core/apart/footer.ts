import { hrefOfMarks, type Inline, inlineText, type RichNode } from "../email";

/** What links are called that end a subscription, in the languages letters are written in most. */
const ENDS =
  /unsubscri|opt.?out|sign.?off|abbestell|abmeld|austrag|d[ée]sabonn|d[ée]sinscri|darse de baja|cancelar (la )?suscripci|annulla|disiscriv|cancella.*iscrizione|uitschrijv|afmelden|avregistrer|avsluta|stop receiving/i;
/** And those that lead to the letter on the web. */
const ON_THE_WEB =
  /(view|read|open|see).{0,30}(browser|online|web)|trouble (viewing|reading)|(im browser|online) (ansehen|lesen|anzeigen)|browser.?ansicht|web.?version|version en ligne|dans (votre|le) navigateur|en el navegador|nel browser|in de browser/i;

/** Whether a link ends the subscription, by its words or its address. */
export const endsSubscription = (words: string, href: string) => ENDS.test(words) || ENDS.test(href);

/** Whether a link leads to the letter as a web page. */
export const leadsToWebVersion = (words: string, href: string) =>
  ON_THE_WEB.test(words) || /webversion|view.?in.?browser|view.?online/i.test(href);

/** A paragraph without the link that ends the subscription; what it said is given back. */
export function withoutEnding(nodes: readonly RichNode[]): { nodes: RichNode[]; words: string | null } {
  let words: string | null = null;
  const line = (content: readonly Inline[]): Inline[] => {
    const kept = content.filter((it) => {
      const href = hrefOfMarks(it);
      if (href === undefined || !endsSubscription(inlineText([it]), href)) return true;
      words = words === null ? inlineText([it]).trim() : words;
      return false;
    });
    return kept.length === content.length ? [...content] : trimmed(kept);
  };
  const node = (it: RichNode): RichNode[] => {
    if (it.type !== "paragraph")
      return [
        { ...it, content: it.content.map((item) => ({ ...item, content: item.content.flatMap(node) })) },
      ];
    const content = line(it.content ?? []);
    return inlineText(content).trim() === "" ? [] : [{ ...it, content }];
  };
  const rest = nodes.flatMap(node);
  return { nodes: rest, words };
}

/** Separators that parted the link from others part nothing any more. */
function trimmed(content: readonly Inline[]): Inline[] {
  const text = (it: Inline | undefined) => (it?.type === "text" ? it : undefined);
  const kept = content.map((it) => ({ ...it }) as Inline);
  const first = text(kept[0]);
  const last = text(kept.at(-1));
  if (first) first.text = first.text.replace(/^[\s|·•–—/-]+/, "");
  if (last) last.text = last.text.replace(/[\s|·•–—/-]+$/, "");
  return kept.filter((it) => it.type !== "text" || it.text !== "");
}
