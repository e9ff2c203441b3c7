/** The door for what comes back by SMTP (RFC 5321): it takes mail for the domain of our return paths, and no other. */
import type { AddressInfo } from "node:net";
import { SMTPServer } from "smtp-server";
import { domainOf } from "~/core/mime";
import type { Septima } from "../septima";
import { returnsDomain } from "./return-path";
import { takeReturned, type Via } from "./taking";

export interface Door {
  /** `smtp://host:port` */
  address: string;
  close(): Promise<void>;
}

/** So large may it be, in octets, so many may come at once, and so long may one be silent, in milliseconds. */
const LIMITS = { size: 5_000_000, clients: 40, silence: 60_000 };

/** What is said to whoever comes with mail for somebody else. */
const refusal = (code: number, words: string) => Object.assign(new Error(words), { responseCode: code });

/**
 * Opens the door.
 * @param septima asked for when somebody comes: the door may be there before it is
 * @param given `port` 0 picks a free one; whoever comes by the postroom may bring mail for anybody, such as answers
 */
export async function openDoor(
  septima: () => Septima,
  { host, port, via }: { host: string; port: number; via: Via },
): Promise<Door> {
  const server = new SMTPServer({
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    logger: false,
    size: LIMITS.size,
    maxClients: LIMITS.clients,
    socketTimeout: LIMITS.silence,
    banner: "Septima takes what comes back",
    onRcptTo({ address }, _session, done) {
      if (via === "postroom") return done();
      returnsDomain(septima()).then(
        (domain) =>
          domain !== null && domainOf(address).toLowerCase() === domain
            ? done()
            : done(refusal(550, "5.7.1 Nothing is taken here for others")),
        () => done(refusal(451, "4.3.0 Not now")),
      );
    },
    onData(stream, session, done) {
      const chunks: Buffer[] = [];
      let length = 0;
      stream.on("data", (chunk: Buffer) => {
        length += chunk.length;
        if (length <= LIMITS.size) chunks.push(chunk);
      });
      stream.on("error", done);
      stream.on("end", () => {
        if (stream.sizeExceeded || length > LIMITS.size) return done(refusal(552, "5.3.4 This is too large"));
        const source = Buffer.concat(chunks);
        const take = async () => {
          for (const { address } of session.envelope.rcptTo)
            await takeReturned(septima(), { via, to: address, source });
        };
        // What cannot be written down now comes again: it is not said to be taken.
        take().then(
          () => done(null, "Taken"),
          () => done(refusal(451, "4.3.0 Not now")),
        );
      });
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, host, () => {
      server.removeListener("error", reject);
      resolve();
    });
  });
  server.on("error", () => undefined);
  const { port: taken } = server.server.address() as AddressInfo;
  return {
    address: `smtp://${host}:${taken}`,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
