/** A mail relay for tests that says whatever it is told to, over a real connection. */

import type { AddressInfo } from "node:net";
import net from "node:net";

/** What it says at each point instead of the usual; `null` cuts the connection, `421 …` is said and then cut. */
export interface Script {
  greeting?: string | null;
  ehlo?: string | null;
  auth?: string | null;
  mail?: string | null;
  rcpt?: string | null | ((address: string) => string | null | undefined);
  data?: string | null;
  end?: string | null;
}

export interface HostileRelay {
  address: string;
  /** Who it has taken mail for, in order. */
  taken: string[];
  /** What it has taken, each with its Message-ID. */
  messages: { to: string; messageId: string }[];
  /** How long it takes to say that it has a message, in milliseconds. */
  pace: number;
  /** How often somebody has come. */
  connected: number;
  script: Script;
  close(): Promise<void>;
}

export async function openHostileRelay(script: Script, login = ""): Promise<HostileRelay> {
  const relay: HostileRelay = {
    address: "",
    taken: [],
    messages: [],
    pace: 0,
    connected: 0,
    script,
    close: async () => undefined,
  };
  const sockets = new Set<net.Socket>();
  const server = net.createServer((socket) => {
    sockets.add(socket);
    socket.on("close", () => sockets.delete(socket));
    socket.on("error", () => undefined);
    relay.connected++;
    let reader = "";
    let messageId = "";
    let inData = false;
    let rest = "";
    const say = (own: string | null | undefined, usual: string): boolean => {
      if (own === null) {
        socket.destroy();
        return false;
      }
      const words = own ?? usual;
      socket.write(`${words}\r\n`);
      if (words.startsWith("421")) socket.end();
      return !/^[45]/.test(words);
    };
    say(relay.script.greeting, "220 relay.example ready");
    socket.on("data", (bytes) => {
      rest += bytes.toString("latin1");
      for (;;) {
        const end = rest.indexOf("\r\n");
        if (end < 0) return;
        const line = rest.slice(0, end);
        rest = rest.slice(end + 2);
        if (inData) {
          messageId ||= /^Message-ID: <([^>]*)>/.exec(line)?.[1] ?? "";
          if (line !== ".") continue;
          inData = false;
          const [message, wait] = [{ to: reader, messageId }, relay.pace];
          const take = () => {
            if (!say(relay.script.end, "250 Taken")) return;
            relay.taken.push(message.to);
            relay.messages.push(message);
          };
          messageId = "";
          if (wait > 0) setTimeout(take, wait);
          else take();
          continue;
        }
        const verb = line.slice(0, 4).toUpperCase();
        if (verb === "EHLO") say(relay.script.ehlo, "250-relay.example\r\n250 AUTH PLAIN LOGIN");
        else if (verb === "AUTH") say(relay.script.auth, "235 Welcome");
        else if (verb === "MAIL") say(relay.script.mail, "250 Sender noted");
        else if (verb === "RCPT") {
          reader = /<([^>]*)>/.exec(line)?.[1] ?? "";
          const { rcpt } = relay.script;
          say(typeof rcpt === "function" ? rcpt(reader) : rcpt, "250 Reader noted");
        } else if (verb === "DATA") inData = say(relay.script.data, "354 Go on");
        else if (verb === "QUIT") socket.end("221 Goodbye\r\n");
        else socket.write("250 Fine\r\n");
      }
    });
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  relay.address = `smtp://${login}127.0.0.1:${(server.address() as AddressInfo).port}`;
  relay.close = () =>
    new Promise((resolve) => {
      server.close(() => resolve());
      for (const socket of sockets) socket.destroy();
    });
  return relay;
}
