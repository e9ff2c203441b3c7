import { diffWords } from "diff";

/** Two versions of some words in one: what goes struck out, what comes underlined. Reader data is named. */
export function Difference({ before, after }: { before: string; after: string }) {
  return diffWords(before, after).map((piece, index) => {
    const words = piece.value.replaceAll("\ufffc", "‹reader data›");
    const key = `${index} ${words}`;
    if (piece.added)
      return (
        <ins key={key} className="bg-green-wash text-green">
          {words}
        </ins>
      );
    return piece.removed ? (
      <del key={key} className="bg-red-wash text-red">
        {words}
      </del>
    ) : (
      <span key={key}>{words}</span>
    );
  });
}
