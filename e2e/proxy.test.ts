/** Septima behind a real proxy that ends TLS, as it stands on the web. */
import { execFile, spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import https from "node:https";
import net from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { promisify } from "node:util";
import { afterAll, beforeAll, describe, expect, test, vi } from "vitest";
import { FEW, type Program, startProgram } from "./program";

const ORIGIN = "https://letters.tansyrow.example";
const HOST = "letters.tansyrow.example";
const NGINX = existsSync(".tools/usr/sbin/nginx") ? path.resolve(".tools/usr/sbin/nginx") : "nginx";

let program: Program;
let folder: string;
let port: number;
let stop: () => void = () => undefined;

const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = net.createServer();
    probe.listen(0, "127.0.0.1", () => {
      const { port: free } = probe.address() as net.AddressInfo;
      probe.close(() => resolve(free));
    });
  });

beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "septima-proxy-"));
  await mkdir(path.join(folder, "logs"));
  [program, port] = await Promise.all([
    startProgram({ contacts: FEW, env: { SEPTIMA_ORIGIN: ORIGIN } }),
    freePort(),
  ]);
  await promisify(execFile)("openssl", [
    ..."req -x509 -newkey rsa:2048 -nodes -days 2 -subj".split(" "),
    `/CN=${HOST}`,
    "-keyout",
    path.join(folder, "key.pem"),
    "-out",
    path.join(folder, "cert.pem"),
  ]);
  // As it comes, a proxy passes the address it forwards to as Host; many are told to pass the browser's.
  const place = (more: string) => `proxy_pass ${program.address}; proxy_http_version 1.1; ${more}`;
  const server = (name: string, more: string) => `
    server {
      listen 127.0.0.1:${port} ssl;
      server_name ${name};
      ssl_certificate ${folder}/cert.pem;
      ssl_certificate_key ${folder}/key.pem;
      client_max_body_size 30m;
      location / { ${place(more)} }
    }`;
  await writeFile(
    path.join(folder, "nginx.conf"),
    `daemon off; pid ${folder}/nginx.pid; error_log ${folder}/logs/error.log; events {}
     http {
       access_log off;
       ${["client_body", "proxy", "fastcgi", "uwsgi", "scgi"].map((name) => `${name}_temp_path ${folder}/${name};`).join(" ")}
       ${server(HOST, "proxy_set_header Host $host; proxy_set_header X-Forwarded-Proto https;")}
       ${server("plain.example", "")}
     }`,
  );
  const child = spawn(
    NGINX,
    ["-p", folder, "-e", `${folder}/logs/error.log`, "-c", path.join(folder, "nginx.conf")],
    {
      stdio: "inherit",
    },
  );
  stop = () => child.kill("SIGQUIT");
  await vi.waitFor(
    async () => {
      if ((await ask("/healthz")).status !== 200) throw new Error("The proxy does not answer yet.");
    },
    { timeout: 10_000, interval: 100 },
  );
});
afterAll(async () => {
  stop();
  await program?.stop();
  await rm(folder, { recursive: true, force: true });
});

interface Answer {
  status: number;
  body: string;
  headers: Record<string, string | string[] | undefined>;
}

/** A request through the proxy. `by` is the name that the proxy is asked for. */
function ask(
  where: string,
  {
    method = "GET",
    headers = {},
    body = "",
    by = HOST,
  }: { method?: string; headers?: Record<string, string>; body?: string; by?: string } = {},
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const request = https.request(
      {
        host: "127.0.0.1",
        port,
        path: where,
        method,
        servername: by,
        rejectUnauthorized: false,
        headers: { host: by, ...headers },
      },
      (response) => {
        let text = "";
        response.on("data", (chunk) => {
          text += chunk;
        });
        response.on("end", () =>
          resolve({ status: response.statusCode ?? 0, body: text, headers: response.headers }),
        );
      },
    );
    request.on("error", reject);
    request.end(body);
  });
}
const form = { "content-type": "application/x-www-form-urlencoded" };

describe.each([HOST, "plain.example"])("through a proxy that is asked for as %s", (by) => {
  test("pages come with their policy", async () => {
    const { status, body, headers } = await ask("/campaigns", { by });
    expect(status).toBe(200);
    expect(body).toContain("What to sow now");
    const policy = String(headers["content-security-policy"]);
    expect(policy).toContain("frame-ancestors 'none'");
    const nonce = /'nonce-([^']+)'/.exec(policy)?.[1];
    for (const [script] of body.matchAll(/<script(?! src)[^>]*>/g))
      expect(script).toContain(`nonce="${nonce}"`);
  });

  test("a form of our own pages is taken, one of elsewhere is not", async () => {
    const send = (origin: string) =>
      ask("/campaigns", {
        by,
        method: "POST",
        headers: { ...form, origin, "sec-fetch-site": origin === ORIGIN ? "same-origin" : "cross-site" },
        body: "intent=copy&id=nowhere",
      });
    const own = await send(ORIGIN);
    // It is read, and refused for what it says.
    expect(own.status).toBe(404);
    expect(own.body).toContain("This campaign does not exist");
    expect((await send("https://elsewhere.example")).status).toBe(403);
  });

  test("readers unsubscribe: by the page’s button, and by one press in their mail program", async () => {
    const page = await ask("/unsubscribe/preview", { by });
    expect(page.status).toBe(200);
    const button = await ask("/unsubscribe/preview", {
      by,
      method: "POST",
      headers: { ...form, origin: ORIGIN },
      body: "intent=unsubscribe",
    });
    expect(button.status).toBe(200);
    const oneClick = await ask("/unsubscribe/preview", {
      by,
      method: "POST",
      headers: form,
      body: "List-Unsubscribe=One-Click",
    });
    expect(oneClick.status).toBe(200);
  });
});

test("a connection that rests is kept for longer than a web server before it usually does", async () => {
  const { headers } = await fetch(`${program.address}/healthz`);
  expect(Number(/timeout=(\d+)/.exec(headers.get("keep-alive") ?? "")?.[1])).toBeGreaterThan(60);
});

test("a wrong input is 400 with the field, not a fault of ours", async () => {
  const save = await ask("/campaigns/x/save", {
    method: "POST",
    headers: { "content-type": "application/json", origin: ORIGIN },
    body: JSON.stringify({ revision: "no", save: "x", steps: {} }),
  });
  expect(save.status).toBe(400);
  expect(save.body).toMatch(/“(revision|save|steps)” is not as it should be/);
  for (const [where, body] of [
    ["/readers/count", "{"],
    ["/readers/count", "[]"],
    ["/campaigns/x/editions", "{}"],
    ["/assist", '{"text":1}'],
    ["/removals/nothing/x", "{}"],
  ]) {
    const { status, body: said } = await ask(where, {
      method: "POST",
      headers: { "content-type": "application/json", origin: ORIGIN },
      body,
    });
    expect(status, `${where}: ${said.slice(0, 100)}`).toBe(400);
  }
});
