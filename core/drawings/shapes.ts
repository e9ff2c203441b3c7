/** Flat shapes the drawings are put together from; all lengths in the px of the drawing. */
const LEAF = "#2F5D39";

export const ground = (width: number, height: number, sky: string, near: string, far: string) =>
  `<rect width="${width}" height="${height}" fill="${sky}"/>` +
  `<path d="M0 ${height * 0.78} Q${width * 0.3} ${height * 0.56} ${width * 0.62} ${height * 0.74} T${width} ${height * 0.7} V${height} H0Z" fill="${far}"/>` +
  `<path d="M0 ${height * 0.92} Q${width * 0.5} ${height * 0.76} ${width} ${height * 0.88} V${height} H0Z" fill="${near}"/>`;

export const leaves = (x: number, y: number, size: number) =>
  [-0.5, 0, 0.5]
    .map(
      (lean) =>
        `<path d="M${x} ${y} Q${x + lean * size * 0.3} ${y - size * 0.6} ${x + lean * size} ${y - size}" stroke="${LEAF}" stroke-width="${size * 0.18}" stroke-linecap="round" fill="none"/>`,
    )
    .join("");

export const root = (x: number, y: number, w: number, h: number, fill: string) =>
  `${leaves(x, y, h * 0.42)}<path d="M${x - w / 2} ${y + h * 0.16} Q${x - w / 2} ${y} ${x} ${y} Q${x + w / 2} ${y} ${x + w / 2} ${y + h * 0.16} Q${x + w * 0.32} ${y + h * 0.7} ${x} ${y + h} Q${x - w * 0.32} ${y + h * 0.7} ${x - w / 2} ${y + h * 0.16}Z" fill="${fill}"/>`;

export const ball = (x: number, y: number, r: number, fill: string) =>
  `${leaves(x, y - r * 0.8, r * 0.8)}<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}"/>`;

export const flower = (x: number, y: number, r: number, petal: string, heart: string) =>
  `<path d="M${x} ${y} V${y + r * 4}" stroke="${LEAF}" stroke-width="${r * 0.25}"/>` +
  Array.from({ length: 8 }, (_, index) => {
    const turn = (index * Math.PI) / 4;
    return `<circle cx="${x + Math.cos(turn) * r}" cy="${y + Math.sin(turn) * r}" r="${r * 0.52}" fill="${petal}"/>`;
  }).join("") +
  `<circle cx="${x}" cy="${y}" r="${r * 0.6}" fill="${heart}"/>`;

export const sun = (x: number, y: number, r: number) =>
  `<circle cx="${x}" cy="${y}" r="${r}" fill="#F2C04C"/>`;

/** Drawings by their names: the size in px, and what is drawn into it. */
export type Scenes = Record<
  string,
  { width: number; height: number; draw(width: number, height: number): string }
>;

export const block = (x: number, y: number, w: number, h: number, fill: string, corner = 0) =>
  `<rect x="${x}" y="${y}" width="${w}" height="${h}" rx="${corner}" fill="${fill}"/>`;

export const dot = (x: number, y: number, r: number, fill: string) =>
  `<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}"/>`;

/** A line of that colour and width along a path. */
export const stroke = (path: string, colour: string, width: number) =>
  `<path d="${path}" stroke="${colour}" stroke-width="${width}" stroke-linecap="round" fill="none"/>`;

/** A pot with its rim; `x` is its middle, `y` its upper edge. */
export const pot = (x: number, y: number, w: number, fill: string) =>
  `<path d="M${x - w / 2} ${y} H${x + w / 2} L${x + w * 0.38} ${y + w * 0.9} H${x - w * 0.38}Z" fill="${fill}"/>` +
  block(x - w * 0.56, y - w * 0.12, w * 1.12, w * 0.2, fill, w * 0.05);

/** A tulip; `x`, `y` is the middle of the flower. */
export const tulip = (x: number, y: number, size: number, fill: string) =>
  stroke(`M${x} ${y} V${y + size * 3.2}`, LEAF, size * 0.22) +
  stroke(
    `M${x} ${y + size * 3} Q${x + size * 0.9} ${y + size * 2.2} ${x + size} ${y + size * 1.2}`,
    LEAF,
    size * 0.3,
  ) +
  `<path d="M${x - size * 0.8} ${y - size} L${x - size * 0.3} ${y - size * 0.35} L${x} ${y - size * 1.2} L${x + size * 0.3} ${y - size * 0.35} L${x + size * 0.8} ${y - size} Q${x + size} ${y + size * 0.8} ${x} ${y + size * 0.8} Q${x - size} ${y + size * 0.8} ${x - size * 0.8} ${y - size}Z" fill="${fill}"/>`;

/** A tree that has kept its needles; `x`, `y` is its foot. */
export const fir = (x: number, y: number, size: number, fill: string) =>
  block(x - size * 0.05, y - size * 0.12, size * 0.1, size * 0.12, "#6F5338") +
  [0, 1, 2]
    .map((step) => {
      const [top, wide] = [y - size * (1 - step * 0.25), size * (0.22 + step * 0.08)];
      return `<path d="M${x} ${top} L${x + wide} ${top + size * 0.4} H${x - wide}Z" fill="${fill}"/>`;
    })
    .join("");

/** A pumpkin; `x`, `y` is its middle. */
export const pumpkin = (x: number, y: number, r: number, fill: string, shade: string) =>
  stroke(
    `M${x} ${y - r * 0.7} Q${x + r * 0.1} ${y - r * 1.1} ${x + r * 0.35} ${y - r * 1.15}`,
    LEAF,
    r * 0.16,
  ) +
  `<ellipse cx="${x - r * 0.5}" cy="${y}" rx="${r * 0.62}" ry="${r * 0.76}" fill="${shade}"/>` +
  `<ellipse cx="${x + r * 0.5}" cy="${y}" rx="${r * 0.62}" ry="${r * 0.76}" fill="${shade}"/>` +
  `<ellipse cx="${x}" cy="${y}" rx="${r * 0.56}" ry="${r * 0.82}" fill="${fill}"/>`;
