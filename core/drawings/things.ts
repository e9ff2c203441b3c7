/** Drawings of one thing each, on a ground of its own. */
import { ball, block, dot, flower, leaves, type Scenes, stroke, tulip } from "./shapes";

export const THINGS: Scenes = {
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
  "seed-packets": {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#E9E2D0") +
      [
        [120, "#C4452D"],
        [260, "#3F7F73"],
        [400, "#8567B8"],
      ]
        .map(
          ([x, fill], i) =>
            block(x as number, 120 + i * 14, 120, 220, "#FBF8F1", 6) +
            block(x as number, 120 + i * 14, 120, 54, fill as string, 6) +
            leaves((x as number) + 60, 280 + i * 14, 62),
        )
        .join(""),
  },
  gloves: {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#DCE6DA") +
      [190, 350]
        .map(
          (x, i) =>
            block(x, 200, 110, 150, i ? "#D9722E" : "#E08A45", 40) +
            [0, 28, 56, 84]
              .map((at) =>
                block(x + at, 130 + Math.abs(at - 42) * 0.4, 26, 110, i ? "#D9722E" : "#E08A45", 13),
              )
              .join("") +
            block(x + 2, 330, 106, 60, "#3F5D4A", 8),
        )
        .join(""),
  },
  lantern: {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#2B3A4A") +
      stroke("M320 70 V130", "#C9B48A", 8) +
      `<path d="M240 160 L320 110 L400 160Z" fill="#C9B48A"/>` +
      block(250, 160, 140, 200, "#F6D98A", 6) +
      stroke("M250 160 V360 M390 160 V360 M320 160 V360", "#C9B48A", 8) +
      block(236, 356, 168, 26, "#C9B48A", 4) +
      `<path d="M320 230 Q352 280 320 320 Q288 280 320 230Z" fill="#E5921B"/>`,
  },
  bulbs: {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#EADCC6") +
      [200, 330, 450]
        .map(
          (x, i) =>
            `<path d="M${x} ${150 + i * 16} Q${x + 84} ${250 + i * 16} ${x + 50} ${340 + i * 10} Q${x} ${380 + i * 8} ${x - 50} ${340 + i * 10} Q${x - 84} ${250 + i * 16} ${x} ${150 + i * 16}Z" fill="${["#B98148", "#A4703E", "#C99A5B"][i]}"/>` +
            stroke(
              `M${x} ${170 + i * 16} Q${x + 30} ${260 + i * 14} ${x + 10} ${340 + i * 10}`,
              "#8A6A4A",
              4,
            ),
        )
        .join(""),
  },
  "garlic-plait": {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#E4DDF0") +
      stroke("M320 60 V400", "#B9A77E", 22) +
      [110, 190, 270, 350]
        .map(
          (y, i) => dot(280 - (i % 2) * 6, y, 48, "#FBF6EC") + dot(364 + (i % 2) * 6, y + 36, 48, "#F1E6F2"),
        )
        .join("") +
      [110, 190, 270, 350].map((y) => stroke(`M280 ${y - 40} V${y + 34}`, "#CBB6D6", 4)).join(""),
  },
  soup: {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#F0DFC8") +
      `<path d="M150 250 H490 Q480 400 320 400 Q160 400 150 250Z" fill="#2F5D4A"/>` +
      `<ellipse cx="320" cy="250" rx="170" ry="46" fill="#E17A2C"/>` +
      [250, 320, 390]
        .map((x, i) => stroke(`M${x} ${190 - (i % 2) * 20} q18 -30 0 -56 q-18 -26 0 -52`, "#FBF4E4", 9))
        .join("") +
      leaves(330, 260, 40),
  },
  parcel: {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#DDE6EC") +
      block(170, 170, 300, 220, "#C99A5B", 8) +
      block(300, 170, 40, 220, "#7A2148") +
      block(170, 250, 300, 34, "#7A2148") +
      `<path d="M320 170 Q230 70 210 140 Q210 176 320 170 Q430 70 430 140 Q430 176 320 170Z" fill="#B4578F"/>`,
  },
  crocus: {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#E6EEF2") +
      tulip(210, 210, 44, "#8567B8") +
      tulip(330, 180, 52, "#6D4FA3") +
      tulip(450, 220, 42, "#EDB63A") +
      `<path d="M0 380 Q320 330 640 390 V480 H0Z" fill="#F7FAFC"/>`,
  },
  "pruning-saw": {
    width: 640,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#E3E6DE") +
      `<path d="M120 330 L430 170 L450 210 L150 370Z" fill="#AEB6BA"/>` +
      Array.from(
        { length: 12 },
        (_, i) => `<path d="M${150 + i * 25} ${370 - i * 13} l10 14 l14 -26Z" fill="#AEB6BA"/>`,
      ).join("") +
      `<path d="M420 160 Q540 90 560 150 Q570 190 450 226Z" fill="#C4452D"/>`,
  },
  person: {
    width: 480,
    height: 480,
    draw: (w, h) =>
      block(0, 0, w, h, "#DDE7D6") +
      `<path d="M70 480 Q80 310 240 310 Q400 310 410 480Z" fill="#3F7F73"/>` +
      dot(240, 220, 92, "#D9A27C") +
      `<path d="M140 190 Q150 90 240 90 Q330 90 340 190 Q300 150 240 156 Q180 150 140 190Z" fill="#5A3A28"/>` +
      block(120, 168, 240, 26, "#E0C27A", 13) +
      `<path d="M160 176 Q170 70 240 70 Q310 70 320 176Z" fill="#E0C27A"/>`,
  },
};
