/** A first draft by rules: each line of the brief becomes a part of the letter by what it looks like. */

type Part = Record<string, unknown>;

const ADDRESS = /https?:\/\/[^\s<>"]+[^\s<>".,;:!?)]/;
const sentence = (text: string) => {
  const line = text.trim();
  const begun = line.slice(0, 1).toUpperCase() + line.slice(1);
  return /[.!?…:]$/.test(begun) ? begun : `${begun}.`;
};
const title = (text: string) => {
  const line = text.trim().replace(/[.!?:;,\s]+$/, "");
  return line.slice(0, 1).toUpperCase() + line.slice(1);
};

export function draftOf(brief: string, greeting: string | null): Part {
  const lines = brief
    .split(/\n+/)
    .flatMap((line) => (/^\s*([-*•]|\d+[.)])\s/.test(line) ? [line] : line.split(/(?<=[.!?])\s+(?=\p{Lu})/u)))
    .map((line) => line.trim())
    .filter(Boolean);
  const [first = "A letter", ...rest] = lines;
  const about = title(
    first.replace(
      /^(say|tell|write|announce|invite|remind)\s+(them|readers|people|everybody)?\s*(that|about|to)?\s*/i,
      "",
    ),
  );
  const parts: Part[] = [{ kind: "heading", level: 1, text: about.slice(0, 90) }];
  if (greeting) parts.push({ kind: "words", text: `Dear ${greeting},` });
  const points: string[] = [];
  const flush = () => {
    if (points.length > 0)
      parts.push({ kind: "words", text: points.map((point) => `- ${point}`).join("\n") });
    points.length = 0;
  };
  if (about.length > 90) parts.push({ kind: "words", text: sentence(first) });
  let button: Part | null = null;
  for (const line of rest) {
    const point = /^([-*•]|\d+[.)])\s+(.*)$/.exec(line)?.[2];
    if (point !== undefined) {
      points.push(sentence(point));
      continue;
    }
    flush();
    const [href] = ADDRESS.exec(line) ?? [];
    const picture = /^(?:a |the )?(?:picture|photograph|photo) of (.+?)[.!]?$/i.exec(line)?.[1];
    if (picture) parts.push({ kind: "picture", about: title(picture) });
    else if (href) {
      const words = title(
        line.replace(ADDRESS, "").replace(/^(with )?(a )?(button|link)( to| for)?:?\s*/i, ""),
      );
      button = { kind: "button", text: words.length > 2 && words.length < 40 ? words : "See more", href };
    } else parts.push({ kind: "words", text: sentence(line) });
  }
  flush();
  if (button) parts.push(button);
  return {
    subject: about.slice(0, 60),
    preheader: rest.length > 0 ? sentence(rest[0].replace(/^([-*•]|\d+[.)])\s+/, "")).slice(0, 110) : "",
    parts,
  };
}
