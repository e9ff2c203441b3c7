import type { Picture } from "~/server/pictures/library";

/** A picture of the library as whoever places it knows it. */
export type PictureFacts = Omit<Picture, "type" | "folder" | "labels" | "archived">;
