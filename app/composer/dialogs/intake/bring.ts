import { type Filled, fileNameOf, fillPlaceholders } from "~/core/apart";
import { commands, withPicture } from "~/core/compose";
import type { Email, Section, Theme } from "~/core/email";
import type { Intake } from "~/server/intake/intake";
import { type Picture, takeFromAddress, uploadPicture } from "../../../pictures/upload";
import { tell } from "../../../requests";
import { knowPictures } from "../../controls/pictures";
import { type Composer, newId } from "../../state/store";

/** What is wished for a letter that was taken apart. */
export interface Wishes {
  filled: Readonly<Record<string, Filled>>;
  /** Whether its look becomes a theme. */
  look: boolean;
  /** Whether pictures that lie on the web are taken into the library. */
  web: boolean;
  /** Pictures that were given for those that did not come. */
  given: readonly File[];
}

/** The addresses of pictures that a letter shows from the web. */
export function webPictures(sections: readonly Section[]): string[] {
  const found = JSON.stringify(sections).matchAll(/"(?:src|picture)":"(https?:\/\/[^"\\]+)"/g);
  return [...new Set([...found].map(([, address]) => address))];
}

/** The file among those given that a missing picture means: of its name, or the only one left. */
export function fileFor(missing: string, given: readonly File[]): File | undefined {
  const wanted = fileNameOf(missing);
  const stem = (name: string) => name.toLowerCase().replace(/\.[a-z0-9]+$/, "");
  return (
    given.find((file) => file.name.toLowerCase() === wanted) ??
    given.find((file) => stem(file.name) === stem(wanted))
  );
}

/** Puts pictures into the library and in the place of what a letter names; says which could not be had. */
async function placed(
  sections: Section[],
  pictures: readonly { address: string; take(): Promise<Picture> }[],
  onDone: (count: number) => void,
): Promise<{ sections: Section[]; taken: Picture[]; failed: string[] }> {
  let next = sections;
  const taken: Picture[] = [];
  const failed: string[] = [];
  for (const [index, { address, take }] of pictures.entries()) {
    try {
      const picture = await take();
      taken.push(picture);
      next = replaced(next, address, picture);
    } catch (error) {
      failed.push(`${address}: ${(error as Error).message}`);
    }
    onDone(index + 1);
  }
  return { sections: next, taken, failed };
}

/** Any address may be replaced here, not only ours. */
function replaced(sections: Section[], address: string, picture: Picture): Section[] {
  const mark = `/pictures/mark-${picture.id}.x`;
  const text = JSON.stringify(sections).replaceAll(JSON.stringify(address), JSON.stringify(mark));
  const { path: src, width, height } = picture;
  return withPicture(JSON.parse(text) as Section[], new Set([mark]), { src, width, height });
}

/** Keeps a theme; where its name is taken, under the next one that is free. */
async function keepTheme(theme: Theme): Promise<Theme> {
  for (let number = 1; ; number++) {
    const name = number === 1 ? theme.name : `${theme.name.slice(0, 74)} ${number}`;
    const answer = await tell("/themes", {
      intent: "save",
      theme: { ...theme, id: "new", name },
      of: null,
    });
    if (answer.problem === null) return answer.result.theme;
    if (number >= 50 || !/already/.test(answer.problem)) throw new Error(answer.problem);
  }
}

/**
 * Brings a letter that was taken apart into the design: in the place of what is there, or below it.
 * @param onDone hears how many pictures are through, of how many
 * @returns what could not be had, in words
 * @throws Error with a sentence, with the design as it was
 */
export async function bringLetter(
  store: Composer,
  found: Intake,
  how: "replace" | "below",
  wishes: Wishes,
  onDone: (done: number, of: number) => void,
): Promise<string[]> {
  const { apart } = found;
  if (!apart) return [];
  const filled = fillPlaceholders(apart.sections, wishes.filled);
  const wanted = [
    ...found.missing.flatMap((address) => {
      const file = fileFor(address, wishes.given);
      return file ? [{ address, take: () => uploadPicture(file) }] : [];
    }),
    ...(wishes.web ? webPictures(filled) : []).map((address) => ({
      address,
      take: () => takeFromAddress(address),
    })),
  ];
  onDone(0, wanted.length);
  const got = await placed(filled, wanted, (done) => onDone(done, wanted.length));
  const { taken, failed } = got;
  // Where a picture did not come, its place waits for one.
  const sections = found.missing.reduce(
    (all, address) => JSON.parse(JSON.stringify(all).replaceAll(JSON.stringify(address), '""')) as Section[],
    got.sections,
  );
  const theme = how === "replace" && wishes.look ? await keepTheme(apart.theme) : null;
  const state = store.getState();
  if (theme) {
    const { facts } = state;
    state.set({
      facts: { ...facts, themes: [...facts.themes, theme], ownThemes: [...facts.ownThemes, theme] },
    });
  }
  knowPictures(store, [...found.pictures, ...taken]);
  state.edit(null);
  state.select(null);
  if (how === "below") {
    state.apply(commands.addSections(sections, newId), "Bringing a letter in");
    return failed;
  }
  const { email } = store.getState();
  const line = (text: string, before: Email["envelope"]["subject"]) =>
    text === "" ? before : fillPlaceholders([{ type: "text" as const, text }], wishes.filled);
  const next: Email = {
    ...email,
    ...(theme && { theme: theme.id }),
    ...(apart.language && /^[a-z]{2}(-[a-z0-9]+)?$/i.test(apart.language) && { language: apart.language }),
    envelope: {
      ...email.envelope,
      subject: line(apart.subject, email.envelope.subject),
      preheader: line(apart.preheader, email.envelope.preheader),
    },
    sections,
  };
  state.apply(commands.replaceDesign(next, newId), "Bringing a letter in");
  return failed;
}
