/** Files are the same wherever they lie: one contract for the folder and the database, and work handed from machine to machine. */
import { randomBytes } from "node:crypto";
import { mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { guessColumns, type Plan } from "~/core/importing";
import { changeById } from "./audience/changing";
import { fieldsOf } from "./audience/fields";
import { fileFacts, takeFile } from "./audience/import-file";
import { cancelImport, runImport } from "./audience/importing";
import { type Files, filesInDatabase, folderOfFiles } from "./files";
import { pictureFile } from "./pictures/files";
import { addPicture } from "./pictures/taking";
import type { Septima } from "./septima";
import { openWorld } from "./test-world";

let septima: Septima;
let close: () => Promise<void>;
const folders: string[] = [];
const newFolder = async () => {
  const folder = await mkdtemp(path.join(tmpdir(), "files-"));
  folders.push(folder);
  return folder;
};

beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
afterAll(async () => {
  await close();
  for (const folder of folders) await rm(folder, { recursive: true, force: true });
});

describe.each(["folder", "database"])("in the %s", (where) => {
  /** Two machines. */
  let one: Files;
  let other: Files;
  let theirs: string;
  beforeAll(async () => {
    const shared = await newFolder();
    theirs = where === "folder" ? shared : await newFolder();
    const open = (folder: string) =>
      where === "folder" ? folderOfFiles(folder) : filesInDatabase(septima.db, folder);
    one = open(shared);
    other = open(theirs);
  });
  const put = async (name: string, data: Uint8Array) => {
    await writeFile(await one.place(name), data);
    await one.keep(name);
  };

  test.each([0, 1, 999_999, 1_000_000, 1_000_001, 3_500_000])(
    "%i octets are the same on another machine",
    async (octets) => {
      const data = randomBytes(octets);
      const name = `${where}/deep/of-${octets}.bin`;
      await put(name, data);
      const found = await Promise.all(Array.from({ length: 5 }, () => other.at(name)));
      expect(new Set(found).size).toBe(1);
      expect((await readFile(found[0]!)).equals(data)).toBe(true);
      expect((await readdir(path.join(theirs, where, "deep"))).filter((it) => it.endsWith(".part"))).toEqual(
        [],
      );
      // Kept twice is as once.
      await one.keep(name);
      expect((await readFile((await other.at(name))!)).equals(data)).toBe(true);
    },
  );

  test("what is not there is nowhere, and what was forgotten is not there", async () => {
    expect(await other.at("none/of-it.png")).toBeNull();
    await put("for/a-while.png", randomBytes(10));
    await one.forget("for/a-while.png");
    expect(await other.at("for/a-while.png")).toBeNull();
    expect(await one.at("for/a-while.png")).toBeNull();
    await one.forget("never/there.png");
  });

  test.each(["../up.png", "/etc/passwd", "a/../../b", "a//b", "", ".", "a\tb", "a\\b"])(
    "“%s” is no name",
    async (name) => {
      for (const ask of [one.at, one.place, one.keep, one.forget])
        await expect((async () => ask(name))()).rejects.toThrow();
    },
  );
});

describe("two machines with nothing in common but the database", () => {
  let here: Septima;
  let there: Septima;
  beforeAll(async () => {
    const machine = async (): Promise<Septima> => {
      const folder = await newFolder();
      return {
        ...septima,
        cache: new Map(),
        config: { ...septima.config, data: folder },
        files: filesInDatabase(septima.db, folder),
      };
    };
    [here, there] = [await machine(), await machine()];
  });

  test("a picture that came to one is shown by the other, in each width", async () => {
    const data = await sharp({ create: { width: 1300, height: 400, channels: 3, background: "#2A5E3C" } })
      .png()
      .toBuffer();
    const { path: src } = await addPicture(here, "hill.png", data);
    const file = path.posix.basename(src);
    const mine = await pictureFile(here, file);
    expect((await pictureFile(there, file)).data.equals(mine.data)).toBe(true);
    expect((await sharp((await pictureFile(there, file, 600)).data).metadata()).width).toBe(600);
  });

  test("a file of contacts that came to one is brought in by the other, and stopped by the first", async () => {
    const lines = Array.from({ length: 60_000 }, (_, at) => `reader${at}@mail.example,Name ${at}`);
    const body = new Response(`email,first_name\n${lines.join("\n")}\n`).body!;
    const id = await takeFile(here, "readers.csv", body);
    const file = await fileFacts(there, id);
    expect(file.lines).toBe(60_000);
    const plan: Plan = {
      columns: guessColumns(file.columns, await fieldsOf(there)),
      known: "fill",
      lists: [],
      newList: "",
      consent: { source: "", date: "" },
      lenient: false,
    };
    const { finished } = await runImport(there, id, plan);
    await cancelImport(here, id);
    await finished;
    expect((await changeById(here, id)).state).toBe("undone");
    const again = await takeFile(
      here,
      "two.csv",
      new Response("email\na@mail.example\nb@mail.example\n").body!,
    );
    await (await runImport(there, again, { ...plan, columns: plan.columns.slice(0, 1) })).finished;
    expect((await changeById(here, again)).counts).toMatchObject({ made: 2 });
    expect(
      await septima.db.query("select 1 from stored_files where name like 'imports/' || $1 || '%'", [again]),
    ).toEqual([]);
  });
});
