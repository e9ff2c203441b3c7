const utf8 = new TextEncoder();
const HEX = "0123456789ABCDEF";
const LIMIT = 72;

/**
 * Text as quoted-printable octets (RFC 2045, 6.7), written so that it starts at the beginning of a line and ends
 * there too, with a soft line break where needed: pieces encoded one by one can be put together freely.
 */
export function quotedPrintable(text: string): Uint8Array {
  if (text === "") return new Uint8Array(0);
  const source = utf8.encode(text.replace(/\r\n?/g, "\n"));
  const out = new Uint8Array(source.length * 3 + Math.ceil((source.length * 3) / LIMIT) * 3 + 8);
  let length = 0;
  let column = 0;
  const soft = () => {
    out[length++] = 61;
    out[length++] = 13;
    out[length++] = 10;
    column = 0;
  };
  for (let index = 0; index < source.length; index++) {
    const octet = source[index];
    if (octet === 10) {
      out[length++] = 13;
      out[length++] = 10;
      column = 0;
      continue;
    }
    const next = source[index + 1];
    const blankAtEnd = (octet === 32 || octet === 9) && (next === 10 || next === undefined);
    const plain = octet === 9 || (octet >= 32 && octet <= 126 && octet !== 61);
    if (plain && !blankAtEnd) {
      if (column >= LIMIT) soft();
      out[length++] = octet;
      column++;
    } else {
      if (column > LIMIT - 3) soft();
      out[length++] = 61;
      out[length++] = HEX.charCodeAt(octet >> 4);
      out[length++] = HEX.charCodeAt(octet & 15);
      column += 3;
    }
  }
  if (column > 0) soft();
  return out.slice(0, length);
}
