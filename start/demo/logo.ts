/** The mark of the demo nursery: tansy in flower, above the ground line of a row. */
export function tansyMark(stem: string, flower: string): string {
  const button = (x: number, y: number, r: number) =>
    `<circle cx="${x}" cy="${y}" r="${r}" fill="${flower}"/><circle cx="${x}" cy="${y}" r="${r * 0.55}" fill="none" stroke="${stem}" stroke-width="5" stroke-dasharray="1 9" stroke-linecap="round"/>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="240" viewBox="0 0 240 240"><g fill="none" stroke="${stem}" stroke-width="12" stroke-linecap="round"><path d="M120 206V84M120 150C92 150 66 132 60 96M120 150C148 150 174 132 180 96"/><path d="M36 214H204"/></g>${button(120, 60, 36)}${button(56, 84, 28)}${button(184, 84, 28)}</svg>`;
}
