/**
 * Neutral pictures of a nursery's world, drawn by us: vegetables, flowers, tools and weather as flat vector shapes.
 *
 * `drawing` gives one as SVG by its name; `DRAWINGS` names them all.
 */
const LEAF = "#2F5D39";

const ground = (width: number, height: number, sky: string, near: string, far: string) =>
  `<rect width="${width}" height="${height}" fill="${sky}"/>` +
  `<path d="M0 ${height * 0.78} Q${width * 0.3} ${height * 0.56} ${width * 0.62} ${height * 0.74} T${width} ${height * 0.7} V${height} H0Z" fill="${far}"/>` +
  `<path d="M0 ${height * 0.92} Q${width * 0.5} ${height * 0.76} ${width} ${height * 0.88} V${height} H0Z" fill="${near}"/>`;

const leaves = (x: number, y: number, size: number) =>
  [-0.5, 0, 0.5]
    .map(
      (lean) =>
        `<path d="M${x} ${y} Q${x + lean * size * 0.3} ${y - size * 0.6} ${x + lean * size} ${y - size}" stroke="${LEAF}" stroke-width="${size * 0.18}" stroke-linecap="round" fill="none"/>`,
    )
    .join("");

const root = (x: number, y: number, w: number, h: number, fill: string) =>
  `${leaves(x, y, h * 0.42)}<path d="M${x - w / 2} ${y + h * 0.16} Q${x - w / 2} ${y} ${x} ${y} Q${x + w / 2} ${y} ${x + w / 2} ${y + h * 0.16} Q${x + w * 0.32} ${y + h * 0.7} ${x} ${y + h} Q${x - w * 0.32} ${y + h * 0.7} ${x - w / 2} ${y + h * 0.16}Z" fill="${fill}"/>`;

const ball = (x: number, y: number, r: number, fill: string) =>
  `${leaves(x, y - r * 0.8, r * 0.8)}<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}"/>`;

const flower = (x: number, y: number, r: number, petal: string, heart: string) =>
  `<path d="M${x} ${y} V${y + r * 4}" stroke="${LEAF}" stroke-width="${r * 0.25}"/>` +
  Array.from({ length: 8 }, (_, index) => {
    const turn = (index * Math.PI) / 4;
    return `<circle cx="${x + Math.cos(turn) * r}" cy="${y + Math.sin(turn) * r}" r="${r * 0.52}" fill="${petal}"/>`;
  }).join("") +
  `<circle cx="${x}" cy="${y}" r="${r * 0.6}" fill="${heart}"/>`;

const sun = (x: number, y: number, r: number) => `<circle cx="${x}" cy="${y}" r="${r}" fill="#F2C04C"/>`;

const scenes: Record<string, { width: number; height: number; draw(width: number, height: number): string }> =
  {
    "spring-rows": {
      width: 1280,
      height: 420,
      draw: (w, h) =>
        ground(w, h, "#DCE6CF", "#4F7F4A", "#83A76E") +
        sun(w * 0.76, 96, 56) +
        root(366, 146, 150, 240, "#D94F3A") +
        root(640, 140, 160, 262, "#E8883C") +
        ball(930, 260, 92, "#6B4C7D"),
    },
    "autumn-bed": {
      width: 1280,
      height: 420,
      draw: (w, h) =>
        ground(w, h, "#F3DDC4", "#9A6A3A", "#C99A5B") +
        sun(200, 110, 60) +
        ball(520, 280, 110, "#D9722E") +
        ball(760, 300, 80, "#C4462B") +
        root(1010, 150, 120, 220, "#EADFC8"),
    },
    frost: {
      width: 1280,
      height: 420,
      draw: (w, h) =>
        ground(w, h, "#D5E2EA", "#EEF4F7", "#B9CDD8") +
        `<circle cx="980" cy="110" r="60" fill="#F7F3E4"/>` +
        leaves(300, 330, 120) +
        leaves(520, 350, 160) +
        leaves(760, 340, 120) +
        [150, 420, 640, 870, 1120]
          .map((x, i) => `<circle cx="${x}" cy="${70 + i * 30}" r="9" fill="#fff"/>`)
          .join(""),
    },
    tomato: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#F4DBC9"/>${ball(250, 270, 110, "#C4452D")}${ball(420, 300, 84, "#DB643A")}`,
    },
    beans: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#DFE8D2"/>${[180, 270, 360, 450].map((x, i) => `<rect x="${x}" y="${90 + i * 12}" width="46" height="270" rx="23" fill="${i % 2 ? "#4F7F4A" : "#6C9A55"}"/>`).join("")}`,
    },
    "sweet-pea": {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#E8DDEF"/>${flower(220, 210, 46, "#B4578F", "#F0C4DA")}${flower(350, 170, 54, "#8567B8", "#D9CBF0")}${flower(460, 240, 44, "#D98BB5", "#F7DCE9")}`,
    },
    sunflower: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#DDEBF2"/>${flower(320, 200, 74, "#EDB63A", "#6B4423")}`,
    },
    leek: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#E6EEDD"/>${[230, 300, 370].map((x) => `${leaves(x + 20, 170, 110)}<rect x="${x}" y="160" width="40" height="240" rx="18" fill="#F3F4E6"/>`).join("")}`,
    },
    beetroot: {
      width: 640,
      height: 480,
      draw: (w, h) => `<rect width="${w}" height="${h}" fill="#F0DFE4"/>${ball(320, 300, 100, "#7A2148")}`,
    },
    trowel: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#ECE7DB"/><rect x="300" y="70" width="40" height="150" rx="18" fill="#9A6A3A"/><rect x="312" y="210" width="16" height="50" fill="#7C858C"/><path d="M260 260 H380 Q390 380 320 430 Q250 380 260 260Z" fill="#9AA4AB"/>`,
    },
    "watering-can": {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#DCE9E4"/><rect x="230" y="200" width="180" height="190" rx="16" fill="#3F7F73"/><path d="M400 330 L520 190 L548 206 L420 380Z" fill="#3F7F73"/><path d="M240 210 Q150 250 240 350" stroke="#2F6158" stroke-width="20" fill="none"/><rect x="270" y="170" width="100" height="40" rx="12" fill="#2F6158"/>`,
    },
    rain: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#D3DEE6"/><ellipse cx="320" cy="170" rx="170" ry="72" fill="#8C9DAA"/><circle cx="250" cy="140" r="70" fill="#9DAEBA"/><circle cx="360" cy="120" r="84" fill="#9DAEBA"/>${[210, 270, 330, 390, 440].map((x, i) => `<path d="M${x} ${280 + (i % 2) * 40} l-14 60" stroke="#4C7A96" stroke-width="10" stroke-linecap="round"/>`).join("")}`,
    },
    apples: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#EAF0DA"/>${ball(240, 290, 88, "#B63A34")}${ball(400, 270, 96, "#93A93C")}`,
    },
    seedling: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#F2EBDD"/><path d="M200 300 H440 L410 440 H230Z" fill="#B4673F"/>${leaves(320, 300, 150)}`,
    },
    workshop: {
      width: 640,
      height: 480,
      draw: (w, h) =>
        `<rect width="${w}" height="${h}" fill="#E4E2EC"/><rect x="120" y="300" width="400" height="30" rx="6" fill="#8A6A4A"/><rect x="160" y="330" width="24" height="110" fill="#6F5338"/><rect x="456" y="330" width="24" height="110" fill="#6F5338"/>${ball(230, 260, 36, "#C4452D")}${flower(330, 180, 28, "#EDB63A", "#6B4423")}<rect x="400" y="230" width="60" height="70" rx="8" fill="#3F7F73"/>`,
    },
  };

export const DRAWINGS: readonly string[] = Object.keys(scenes);

/** A drawing as SVG with its size in px, or null when there is none of that name. */
export function drawing(name: string): { svg: string; width: number; height: number } | null {
  const scene = Object.hasOwn(scenes, name) ? scenes[name] : undefined;
  if (!scene) return null;
  const { width, height } = scene;
  return {
    width,
    height,
    svg: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">${scene.draw(width, height)}</svg>`,
  };
}
