import {
  classAttribute,
  css,
  epochOf,
  firstWords,
  headingLook,
  ink,
  lineHtml,
  sideOf,
  smallWords,
  TABLE,
  timeWords,
  writeInline,
} from "../../markup";
import { escapeHtml } from "../../program";
import { align, faceLook, line, moment, type Properties, zone } from "../../properties";
import { declareBlock, shows } from "../type";

const properties = {
  content: line("Words", { fresh: "The offer ends in", stays: true }),
  /** On the clock of `zone`. */
  until: moment("Ends", { under: "Countdown", history: "Choosing the end" }),
  zone: zone({ under: "Countdown", history: "Choosing the zone" }),
  align: align({ fresh: "center", under: "Look" }),
  ...faceLook({ under: "Look", words: "Digits" }),
} satisfies Properties;

/** Size of the picture of the clock in px. */
export const CLOCK = { width: 300, height: 84 };

export const countdown = declareBlock({
  type: "countdown",
  label: "Countdown",
  group: "actions",
  words: "date deadline clock ends timer",
  properties,
  about:
    "The clock is drawn when the email is opened. Programs that keep pictures show the time they kept, so the date stands below it.",
  parts: [
    { key: "clock", label: "Running clock" },
    { key: "date", label: "Date" },
  ],
  html(block, context) {
    const { out, theme, origin } = context;
    lineHtml(
      block.content,
      { ...headingLook(3, context), margin: "0 0 8px", align: block.align, key: "content" },
      context,
    );
    const epoch = epochOf(block.until, block.zone);
    if (epoch === null) {
      if (context.marks) out.raw('<div class="waiting">Choose the day and time on the right</div>');
      return;
    }
    const date = timeWords(epoch, block.zone, context.language);
    if (shows(block, "clock")) {
      const digits = (block.color ?? theme.light.onAccent).slice(1);
      const behind = (block.face ?? theme.light.accent).slice(1);
      const words = ink(undefined, "soft", context);
      const width = Math.min(CLOCK.width, context.width);
      const height = Math.round((CLOCK.height * width) / CLOCK.width);
      const style = css({
        display: "inline-block",
        border: "0",
        width: "100%",
        "max-width": `${width}px`,
        height: "auto",
        "font-family": theme.fonts.body,
        "font-size": "14px",
        color: words.color,
      });
      out.raw(
        `<table ${TABLE} width="100%"><tr><td align="${sideOf(block.align, context)}"><img src="${origin}/clock/${Math.round(epoch / 1000)}-${digits}-${behind}.png" alt="${escapeHtml(date)}" width="${width}" height="${height}"${classAttribute(words.tone)} style="${style}"></td></tr></table>`,
      );
    }
    if (shows(block, "date")) smallWords([{ type: "text", text: date }], undefined, block.align, context);
  },
  text(block, context) {
    const { out } = context;
    const epoch = epochOf(block.until, block.zone);
    writeInline(block.content, context);
    if (epoch !== null) out.raw(`: ${timeWords(epoch, block.zone, context.language)}`);
    out.raw("\n\n");
  },
  title: (block) => firstWords(block.content) || "Countdown",
  unready: (block) =>
    epochOf(block.until, block.zone) === null ? ["A countdown has no end. Choose its day and time."] : [],
});
