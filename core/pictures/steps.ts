import { z } from "zod";
import { TONES, type ToneName } from "./colour";

/** A part of a whole, from 0 to 1: places and lengths do not hang on how large a picture is kept or shown. */
const share = z.number().min(0).max(1);
const percent = z.number().min(-100).max(100);
const hex = z.string().regex(/^#[0-9a-f]{6}$/i);
const base = { id: z.string().min(1).max(40) };

/** What a picture can be cut into. */
export const SHAPES = ["rectangle", "round", "arch", "leaf"] as const;
export type Shape = (typeof SHAPES)[number];

const PictureStepSchema = z.discriminatedUnion("kind", [
  z.object({
    ...base,
    kind: z.literal("crop"),
    x: share,
    y: share,
    width: share.min(0.005),
    height: share.min(0.005),
    shape: z.enum(SHAPES),
  }),
  z.object({
    ...base,
    kind: z.literal("rotate"),
    /** Quarter turns clockwise. */
    turns: z.number().int().min(0).max(3),
    /** Degrees clockwise beyond them; what would be empty at the corners is cut away. */
    angle: z.number().min(-45).max(45),
  }),
  z.object({ ...base, kind: z.literal("flip"), across: z.enum(["horizontal", "vertical"]) }),
  /** At most so many px wide. */
  z.object({ ...base, kind: z.literal("resize"), width: z.number().int().min(16).max(4000) }),
  z.object({
    ...base,
    kind: z.literal("light"),
    brightness: percent,
    contrast: percent,
    saturation: percent,
    warmth: percent,
    sharpness: percent.min(0),
  }),
  z.object({
    ...base,
    kind: z.literal("tone"),
    tone: z.enum(Object.keys(TONES) as [ToneName, ...ToneName[]]),
    strength: percent.min(0),
  }),
  z.object({
    ...base,
    kind: z.literal("words"),
    text: z.string().max(400),
    /** A family that ships, or one of the brand's. */
    font: z.string().max(60),
    weight: z.number().min(100).max(900),
    /** Of the type, as a share of the picture's width. */
    size: share.min(0.005),
    color: hex,
    align: z.enum(["left", "center", "right"]),
    /** Where the words are held: their left, middle or right, by `align`; and their middle from the top. */
    x: share,
    y: share,
    /** What makes them stand out. */
    behind: z.enum(["nothing", "shadow", "strip"]),
    strip: hex,
  }),
  z.object({
    ...base,
    kind: z.literal("pen"),
    strokes: z
      .array(
        z.object({
          color: hex,
          /** As a share of the picture's width. */
          width: share.min(0.0005),
          /** x and y by turns. */
          points: z.array(z.number().min(-0.5).max(1.5)).min(2).max(2000),
        }),
      )
      .max(200),
  }),
  z.object({
    ...base,
    kind: z.literal("frame"),
    style: z.enum(["none", "line", "inset", "mat"]),
    /** Lengths as shares of the picture's width. */
    line: share.max(0.2),
    color: hex,
    corner: share.max(0.5),
    /** What stands in the corners that are cut away; nothing is see-through. */
    behind: hex.optional(),
  }),
  /** What must stay in view wherever less of the picture is shown. */
  z.object({ ...base, kind: z.literal("focus"), x: share, y: share }),
  /** Fewer bytes for a little less of it. */
  z.object({
    ...base,
    kind: z.literal("lighter"),
    format: z.enum(["keep", "jpeg", "png"]),
    quality: z.number().int().min(20).max(95),
  }),
]);
export type PictureStep = z.infer<typeof PictureStepSchema>;
export type StepKind = PictureStep["kind"];
export type StepOf<K extends StepKind> = Extract<PictureStep, { kind: K }>;

export const PictureStepsSchema = z.array(PictureStepSchema).max(60);

/** Of these only the last one counts, so that there is never more than one. */
export const SINGLE: readonly StepKind[] = ["focus", "lighter", "resize"];

/** The kinds of crop that keep a relation of width to height. */
export const RATIOS = [
  { name: "free", ratio: null },
  { name: "1 : 1", ratio: 1 },
  { name: "4 : 5", ratio: 4 / 5 },
  { name: "4 : 3", ratio: 4 / 3 },
  { name: "3 : 2", ratio: 3 / 2 },
  { name: "16 : 9", ratio: 16 / 9 },
  { name: "2 : 1", ratio: 2 },
  { name: "3 : 1", ratio: 3 },
] as const;

const SHAPE_WORDS: Record<Shape, string> = {
  rectangle: "Crop",
  round: "Cut round",
  arch: "Cut to an arch",
  leaf: "Cut to a leaf",
};

const signed = (value: number) => (value > 0 ? `+${value}` : `−${Math.abs(value)}`);

/** How wide pictures are taken to be shown when lengths are said in px: as wide as most emails. */
export const SHOWN = 600;

/** A share of the width in px as most emails show it. */
export const toPx = (length: number) => Math.round(length * SHOWN);

/** What a step does, in a few words. */
export function stepWords(step: PictureStep): string {
  switch (step.kind) {
    case "crop": {
      const part = Math.round(step.width * step.height * 100);
      return `${SHAPE_WORDS[step.shape]}${part < 100 ? `, ${Math.max(1, part)} % kept` : ""}`;
    }
    case "rotate": {
      const degrees = step.turns * 90 + step.angle;
      return degrees === 0 ? "Rotate" : `Rotate ${Math.round(degrees * 10) / 10}°`;
    }
    case "flip":
      return step.across === "horizontal" ? "Flip left to right" : "Flip upside down";
    case "resize":
      return `At most ${step.width} px wide`;
    case "light": {
      const { id: _, kind: __, ...values } = step;
      const changed = Object.entries(values).filter(([, value]) => value !== 0);
      if (changed.length === 0) return "Light";
      const [[name, value]] = changed;
      const rest = changed.length > 1 ? ` and ${changed.length - 1} more` : "";
      return `${name[0].toUpperCase()}${name.slice(1)} ${signed(value)}${rest}`;
    }
    case "tone":
      return `${TONES[step.tone].label} ${step.strength} %`;
    case "words":
      return step.text.trim() === "" ? "Words" : `“${step.text.trim().replace(/\s+/g, " ").slice(0, 30)}”`;
    case "pen":
      return step.strokes.length === 1 ? "1 stroke" : `${step.strokes.length} strokes`;
    case "frame": {
      const line = { none: "", line: "Line", inset: "Inset line", mat: "Mat" }[step.style];
      const corner = step.corner > 0 ? `${line ? "corners" : "Corners"} ${toPx(step.corner)} px` : "";
      return (
        [line && `${line} ${toPx(step.line)} px`, corner].filter((part) => part !== "").join(", ") || "Frame"
      );
    }
    case "focus":
      return "Focus point";
    case "lighter":
      return `Lighter, ${step.format === "keep" ? "" : `${step.format.toUpperCase()} `}${step.quality} %`;
  }
}

/** Whether a step leaves the picture as it was, so that it need not be kept. */
export function doesNothing(step: PictureStep): boolean {
  switch (step.kind) {
    case "crop":
      return (
        step.x === 0 && step.y === 0 && step.width === 1 && step.height === 1 && step.shape === "rectangle"
      );
    case "rotate":
      return step.turns === 0 && step.angle === 0;
    case "light":
      return (
        step.brightness === 0 &&
        step.contrast === 0 &&
        step.saturation === 0 &&
        step.warmth === 0 &&
        step.sharpness === 0
      );
    case "tone":
      return step.strength === 0;
    case "words":
      return step.text.trim() === "";
    case "pen":
      return step.strokes.length === 0;
    case "frame":
      return step.style === "none" && step.corner === 0;
    default:
      return false;
  }
}

/** A fresh step of a kind, as it is first shown. */
export function newStep<K extends StepKind>(kind: K, id: string): StepOf<K> {
  const fresh: { [Kind in StepKind]: Omit<StepOf<Kind>, "id" | "kind"> } = {
    crop: { x: 0, y: 0, width: 1, height: 1, shape: "rectangle" },
    rotate: { turns: 0, angle: 0 },
    flip: { across: "horizontal" },
    resize: { width: 1200 },
    light: { brightness: 0, contrast: 0, saturation: 0, warmth: 0, sharpness: 0 },
    tone: { tone: "lateSun", strength: 60 },
    words: {
      text: "Your words",
      font: "Fraunces",
      weight: 600,
      size: 46 / SHOWN,
      color: "#FFFFFF",
      align: "center",
      x: 0.5,
      y: 0.5,
      behind: "shadow",
      strip: "#1E1B24",
    },
    pen: { strokes: [] },
    frame: { style: "none", line: 8 / SHOWN, color: "#FFFFFF", corner: 12 / SHOWN },
    focus: { x: 0.5, y: 0.5 },
    lighter: { format: "keep", quality: 60 },
  };
  return { id, kind, ...fresh[kind] } as unknown as StepOf<K>;
}
