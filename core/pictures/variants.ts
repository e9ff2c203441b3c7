/** Widths of variants are multiples of this many px, so that there are few of each picture. */
const STEP = 40;
const LEAST = 80;

/** A picture of the library as designs name it. */
const OWN = /^\/pictures\/([\w-]+\.\w+)$/;

/** The file of the library that an address in a design names; null when it is from elsewhere. */
export function pictureFileOf(src: string): string | null {
  return OWN.exec(src)?.[1] ?? null;
}

/**
 * How wide a picture has to be fetched to be shown so wide: twice that, for screens with two px to each; null when it
 * is no wider itself.
 * @param shown in CSS px
 * @param natural its own width in px
 */
export function variantWidth(shown: number, natural: number): number | null {
  const wanted = Math.max(LEAST, Math.ceil((shown * 2) / STEP) * STEP);
  return wanted < natural ? wanted : null;
}

/** Whether a variant may be asked for: anybody may ask, and each is kept. */
export function isVariantWidth(width: number): boolean {
  return Number.isInteger(width) && width >= LEAST && width <= 1400 && width % STEP === 0;
}

/** The address of a picture of the library that is shown so wide; other addresses stay as they are. */
export function variantAddress(src: string, shown: number, natural: number | undefined): string {
  if (natural === undefined || pictureFileOf(src) === null) return src;
  const width = variantWidth(shown, natural);
  return width === null ? src : `${src}/${width}`;
}
