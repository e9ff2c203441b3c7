/** The package brings no types. */
declare module "wawoff2" {
  /** @returns the font as TrueType or OpenType */
  export function decompress(file: Uint8Array): Promise<Uint8Array>;
}
