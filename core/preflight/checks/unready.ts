import { unreadyIn } from "../../blocks";
import { type Block, blocksOf } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";

function unready(block: Block): Finding[] {
  return unreadyIn(block).map((text) => ({
    // A block that cannot be read does not go out, which somebody should know.
    weight: block.type === "unreadable" ? "look" : "stops",
    text,
    block: block.id,
  }));
}

export const unreadyCheck: Check = {
  name: "unready",
  group: "content",
  label: "blocks that are filled in",
  why: "Readers would get an empty place, or a press that leads nowhere.",
  design: (email) => blocksOf(email).flatMap(unready),
};
