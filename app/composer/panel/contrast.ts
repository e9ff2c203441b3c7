/** Contrast of two colours `#RRGGBB`, from 1 to 21 (WCAG 2.2, relative luminance and contrast ratio). */
export function contrast(a: string, b: string): number {
  const [lighter, darker] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (lighter + 0.05) / (darker + 0.05);
}

function luminance(color: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const share = Number.parseInt(color.slice(at, at + 2), 16) / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
