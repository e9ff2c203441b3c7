/** Codes as shops give them out: one column, as text or CSV. */

/** So many signs a code has at most. */
const LONGEST = 100;

export interface CodeList {
  codes: string[];
  /** Lines that hold no code, by their number from 1, each with why. */
  rejected: { line: number; text: string; why: string }[];
}

const HEADER = /^(coupon|promo|discount|voucher)?[ _-]*codes?$/i;

/** Takes a cell out of its quotes (RFC 4180); null where it is not the only one of its line. */
function onlyCell(line: string): string | null {
  const quoted = /^"((?:[^"]|"")*)"[,;\t]*$/.exec(line);
  if (quoted) return quoted[1].replaceAll('""', '"').trim();
  const plain = line.replace(/[,;\t]+$/, "").trim();
  return /[,;\t"]/.test(plain) ? null : plain;
}

/**
 * Reads one code from each line. Empty lines, a byte order mark and a first line that names the column are passed over;
 * a code that is there twice counts once.
 */
export function readCodes(text: string): CodeList {
  const codes = new Set<string>();
  const rejected: CodeList["rejected"] = [];
  for (const [index, raw] of text
    .replace(/^\ufeff/, "")
    .split(/\r\n|\r|\n/)
    .entries()) {
    const line = raw.trim();
    if (line === "") continue;
    const code = onlyCell(line);
    const reject = (why: string) =>
      rejected.push({ line: index + 1, text: line.length > 60 ? `${line.slice(0, 58)}…` : line, why });
    if (code === null) reject("more than one column: keep the codes alone");
    else if (code === "") continue;
    else if (codes.size === 0 && rejected.length === 0 && HEADER.test(code)) continue;
    else if (code.length > LONGEST) reject(`longer than ${LONGEST} signs`);
    else if (/[\u0000-\u001f\u007f-\u009f\u2028\u2029\u202a-\u202e\u2066-\u2069\ufffd]/.test(code))
      reject("holds signs that cannot be seen or read");
    else if (codes.has(code)) reject("is there twice");
    else codes.add(code);
  }
  return { codes: [...codes], rejected };
}
