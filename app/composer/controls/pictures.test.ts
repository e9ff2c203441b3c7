import { expect, test } from "vitest";
import { partsOf } from "./pictures";

const bed = {
  id: "p",
  name: "Bed.jpg",
  path: "/pictures/bed.jpg",
  width: 800,
  height: 400,
  bytes: 9,
  alt: "A bed of leeks",
  focus: { x: 0.2, y: 0.7 },
};

test("what another picture showed is not said of the one that takes its place", () => {
  expect(partsOf(bed, { src: "/pictures/old.jpg", alt: "A shed" }).alt).toBe("A bed of leeks");
  expect(partsOf({ ...bed, alt: "" }, { src: "/pictures/old.jpg", alt: "A shed" }).alt).toBe("");
  // What was written before any picture was there is meant for this one.
  expect(partsOf(bed, { src: "", alt: "Leeks, at last" }).alt).toBe("Leeks, at last");
  expect(partsOf(bed, { src: bed.path, alt: "Mine" }).alt).toBe("Mine");
});

test("only words on a picture take along what stays in view, and only what has words for it has them", () => {
  expect(partsOf(bed, { src: "", alt: "", veil: "#000000" }).focus).toEqual(bed.focus);
  expect(partsOf(bed, { src: "" })).toEqual({ src: bed.path, natural: { width: 800, height: 400 } });
});
