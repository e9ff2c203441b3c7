/** Wide drawings, for the top of a letter. */
import {
  ball,
  block,
  dot,
  fir,
  flower,
  ground,
  leaves,
  pot,
  pumpkin,
  root,
  type Scenes,
  stroke,
  sun,
  tulip,
} from "./shapes";

export const SCENES: Scenes = {
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
  "half-price": {
    width: 1280,
    height: 520,
    draw: (w, h) =>
      block(0, 0, w, h, "#D2AD3C") +
      `<path d="M0 330 Q420 210 760 300 T1280 230 V520 H0Z" fill="#7C7B1E"/>` +
      `<path d="M0 430 Q500 330 1280 410 V520 H0Z" fill="#47601A"/>` +
      dot(986, 120, 74, "#E5921B") +
      root(380, 150, 150, 250, "#CC3F1B") +
      root(640, 130, 160, 290, "#DA6A1C") +
      ball(930, 290, 104, "#6B3A34"),
  },
  greenhouse: {
    width: 1280,
    height: 560,
    draw: (w, h) =>
      block(0, 0, w, h, "#1E3B32") +
      dot(1040, 120, 52, "#F3E3B5") +
      `<path d="M240 470 V250 L640 90 L1040 250 V470Z" fill="#35604F"/>` +
      [340, 440, 540, 640, 740, 840, 940]
        .map((x) => stroke(`M${x} ${250 - (400 - Math.abs(640 - x)) * 0.4} V470`, "#CFE3CE", 5))
        .join("") +
      stroke("M240 470 V250 L640 90 L1040 250 V470", "#E7F0DF", 9) +
      stroke("M240 340 H1040", "#CFE3CE", 5) +
      [320, 460, 600, 760, 900, 980].map((x, i) => leaves(x, 462, 70 + (i % 3) * 34)).join("") +
      block(0, 466, w, 94, "#122820"),
  },
  "spring-tulips": {
    width: 1280,
    height: 560,
    draw: (w, h) =>
      ground(w, h, "#E3EEF0", "#5E8C57", "#94B583") +
      sun(80, 130, 58) +
      ["#D94F6A", "#F0A13C", "#B4578F", "#E8D36A", "#D94F3A", "#8567B8", "#F0A13C"]
        .map((fill, i) => tulip(190 + i * 150, 230 + (i % 2) * 46, 58, fill))
        .join(""),
  },
  "summer-table": {
    width: 1280,
    height: 560,
    draw: (w, h) =>
      block(0, 0, w, h, "#F7D9A8") +
      dot(230, 150, 90, "#F0B23C") +
      `<path d="M0 300 Q360 210 700 290 T1280 260 V560 H0Z" fill="#8CA85C"/>` +
      block(140, 380, 1000, 34, "#FBF4E4", 6) +
      block(200, 414, 26, 146, "#C99A5B") +
      block(1054, 414, 26, 146, "#C99A5B") +
      ball(380, 326, 54, "#C4452D") +
      ball(500, 336, 44, "#DB643A") +
      block(600, 268, 90, 112, "#3F7F73", 10) +
      leaves(645, 272, 96) +
      root(810, 270, 66, 112, "#E8883C") +
      root(900, 262, 70, 120, "#D94F3A") +
      ball(1010, 332, 48, "#93A93C"),
  },
  pumpkins: {
    width: 1280,
    height: 560,
    draw: (w, h) =>
      ground(w, h, "#F1D3B4", "#7A4E2B", "#B98148") +
      dot(250, 140, 70, "#E9933A") +
      pumpkin(460, 380, 130, "#E17A2C", "#C9621F") +
      pumpkin(760, 410, 96, "#EFE3C6", "#D9C9A2") +
      pumpkin(990, 390, 116, "#C4462B", "#A83A22"),
  },
  "winter-wood": {
    width: 1280,
    height: 560,
    draw: (w, h) =>
      block(0, 0, w, h, "#24394C") +
      dot(1010, 130, 58, "#F6EFD8") +
      `<path d="M0 400 Q330 300 660 380 T1280 340 V560 H0Z" fill="#C7D6E0"/>` +
      [
        [170, 430, 250],
        [330, 400, 190],
        [520, 450, 300],
        [760, 410, 210],
        [900, 450, 270],
        [1130, 430, 240],
      ]
        .map(([x, y, size], i) => fir(x, y, size, i % 2 ? "#2F5D4A" : "#3E7560"))
        .join("") +
      `<path d="M0 470 Q500 400 1280 460 V560 H0Z" fill="#EEF4F7"/>` +
      Array.from({ length: 26 }, (_, i) =>
        dot((i * 197) % 1280, (i * 83) % 360, 5 + (i % 3) * 2, "#FFFFFF"),
      ).join(""),
  },
  "lit-window": {
    width: 1280,
    height: 560,
    draw: (w, h) =>
      block(0, 0, w, h, "#3A2A26") +
      block(360, 90, 560, 380, "#F4C96B", 10) +
      stroke("M640 90 V470 M360 280 H920", "#3A2A26", 16) +
      leaves(470, 462, 120) +
      pot(800, 390, 96, "#B4673F") +
      flower(800, 300, 30, "#C4452D", "#F7E2B0") +
      block(300, 470, 680, 28, "#6F4B3A", 4) +
      [120, 210, 1060, 1160].map((x, i) => dot(x, 120 + (i % 2) * 180, 7, "#F4DDA0")).join(""),
  },
  "shop-front": {
    width: 1280,
    height: 520,
    draw: (w, h) =>
      block(0, 0, w, h, "#D7E6EA") +
      block(180, 130, 920, 320, "#F4FAFB") +
      Array.from(
        { length: 8 },
        (_, i) =>
          `<path d="M${180 + i * 115} 130 h115 v60 a57.5 40 0 0 1 -115 0Z" fill="${i % 2 ? "#F4FAFB" : "#0E6272"}"/>`,
      ).join("") +
      block(240, 250, 340, 200, "#9CC3CB", 4) +
      block(680, 240, 150, 210, "#0E3B48", 4) +
      dot(806, 350, 8, "#F2C04C") +
      block(890, 250, 160, 200, "#9CC3CB", 4) +
      pot(330, 392, 60, "#B4673F") +
      leaves(330, 384, 80) +
      pot(470, 392, 60, "#C98A5A") +
      flower(470, 330, 22, "#D98BB5", "#F7DCE9") +
      block(0, 450, w, 70, "#B9D0D6"),
  },
  bouquet: {
    width: 1280,
    height: 560,
    draw: (w, h) =>
      block(0, 0, w, h, "#EFE6F4") +
      [
        [470, 200, 54, "#B4578F", "#F0C4DA"],
        [640, 150, 64, "#EDB63A", "#6B4423"],
        [800, 210, 56, "#8567B8", "#D9CBF0"],
        [560, 290, 46, "#D98BB5", "#F7DCE9"],
        [720, 300, 48, "#D94F6A", "#FBE3D0"],
      ]
        .map(([x, y, r, petal, heart]) =>
          flower(x as number, y as number, r as number, petal as string, heart as string),
        )
        .join("") +
      `<path d="M470 390 H810 L740 560 H540Z" fill="#FBF4E4"/>` +
      `<path d="M470 390 H810 L790 440 H490Z" fill="#DCC9A8"/>`,
  },
  "cake-and-candle": {
    width: 1280,
    height: 520,
    draw: (w, h) =>
      block(0, 0, w, h, "#F6D7C3") +
      dot(180, 120, 60, "#F2B59A") +
      dot(1120, 380, 90, "#F2B59A") +
      block(400, 250, 480, 190, "#FBF4E4", 24) +
      `<path d="M400 300 q40 60 80 0 q40 70 80 0 q40 50 80 0 q40 70 80 0 q40 50 80 0 q40 60 80 0 V274 a24 24 0 0 0 -24 -24 H424 a24 24 0 0 0 -24 24Z" fill="#B4578F"/>` +
      block(626, 140, 28, 112, "#3F7F73", 6) +
      `<path d="M640 60 Q676 106 640 136 Q604 106 640 60Z" fill="#F0A13C"/>` +
      block(330, 440, 620, 22, "#C99A5B", 11) +
      dot(470, 390, 16, "#D94F3A") +
      dot(640, 396, 16, "#D94F3A") +
      dot(810, 390, 16, "#D94F3A"),
  },
};
