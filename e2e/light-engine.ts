/** A desktop mail program with a light HTML engine, on a screen of its own that nobody sees. */
import { type ChildProcess, execFile, spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { promisify } from "node:util";
import sharp from "sharp";

const run = promisify(execFile);
const FOLDERS = ["/usr/lib/x86_64-linux-gnu", "/usr/lib/aarch64-linux-gnu", "/usr/lib"];

/** The engine's library, where the program and what is needed to look at it are installed; null where they are not. */
export function lightEngine(): string | null {
  const programs = ["claws-mail", "Xvfb", "import"];
  if (!programs.every((name) => existsSync(`/usr/bin/${name}`))) return null;
  return (
    FOLDERS.map((folder) => `${folder}/claws-mail/plugins/litehtml_viewer.so`).find((it) => existsSync(it)) ??
    null
  );
}

const CONFIG = (engine: string) => `[Common]
promote_html_part=1
render_html=1
display_header_pane=0
mainwin_width=1100
mainwin_height=1000
mainwin_x=0
mainwin_y=0
work_offline=1
check_on_startup=0
[Plugins_GTK3]
${engine}
`;
const ACCOUNT = `[Account: 1]
account_name=test
is_default=1
name=Test
address=test@mail.example
protocol=5
smtp_server=localhost
`;
const folders = (place: string) => `<?xml version="1.0" encoding="UTF-8"?>
<folderlist><folder type="mh" collapsed="0" name="Mailbox" path="${place}"><folderitem type="inbox" name="inbox" path="inbox"/></folder></folderlist>
`;

/** How long it may take until a message is shown, in milliseconds. */
const PATIENCE = 60_000;

/**
 * A picture (PNG) of a message as the program shows it.
 * @param shown whether it is there yet
 */
export async function inLightEngine(
  message: Uint8Array,
  folder: string,
  shown: (picture: Buffer) => Promise<boolean>,
): Promise<Buffer> {
  const engine = lightEngine();
  if (engine === null) throw new Error("The mail program is not installed.");
  const home = path.join(folder, "light");
  const mail = path.join(home, "Mail");
  await mkdir(path.join(mail, "inbox"), { recursive: true });
  await mkdir(path.join(home, "config"), { recursive: true });
  await writeFile(path.join(mail, "inbox", "1"), message);
  await writeFile(path.join(home, "config", "clawsrc"), CONFIG(engine));
  await writeFile(path.join(home, "config", "accountrc"), ACCOUNT);
  await writeFile(path.join(home, "config", "folderlist.xml"), folders(mail));
  const screen = spawn("Xvfb", ["-displayfd", "3", "-screen", "0", "1120x1020x24"], {
    stdio: ["ignore", "ignore", "ignore", "pipe"],
  });
  const started: ChildProcess[] = [screen];
  try {
    const display = await new Promise<string>((resolve, reject) => {
      screen.stdio[3]?.once("data", (number: Buffer) => resolve(`:${number.toString().trim()}`));
      screen.once("exit", () => reject(new Error("No screen could be made.")));
    });
    const env = { ...process.env, DISPLAY: display, HOME: home };
    const open = ["--alternate-config-dir", path.join(home, "config"), "--select", "#mh/Mailbox/inbox/1"];
    started.push(spawn("claws-mail", open, { env, stdio: "ignore" }));
    for (const until = Date.now() + PATIENCE; ; ) {
      const picture = path.join(home, "shot.png");
      await run("import", ["-window", "root", picture], { env });
      const { data } = await sharp(picture).png().toBuffer({ resolveWithObject: true });
      if ((await shown(data)) || Date.now() > until) return data;
      await sleep(200);
    }
  } finally {
    for (const one of started.reverse()) one.kill("SIGKILL");
  }
}

/** The box that a colour fills in a picture, in px; null where it does not stand. Any of the colours will do. */
export async function boxOf(
  picture: Buffer,
  colours: readonly string[],
): Promise<{ left: number; right: number; top: number; bottom: number } | null> {
  const { data, info } = await sharp(picture).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  for (const colour of colours) {
    const wanted = Number.parseInt(colour.slice(1), 16);
    const box = { left: info.width, right: -1, top: info.height, bottom: -1 };
    for (let at = 0; at < data.length; at += 3) {
      if (((data[at] << 16) | (data[at + 1] << 8) | data[at + 2]) !== wanted) continue;
      const pixel = at / 3;
      const [x, y] = [pixel % info.width, Math.floor(pixel / info.width)];
      box.left = Math.min(box.left, x);
      box.right = Math.max(box.right, x);
      box.top = Math.min(box.top, y);
      box.bottom = Math.max(box.bottom, y);
    }
    if (box.right - box.left > 40) return box;
  }
  return null;
}
