/** What mail systems send back: notifications of failed delivery (RFC 3464), abuse reports (RFC 5965), answers. */
import { randomBytes } from "node:crypto";
import { formatDate, headerLine } from "~/core/mime";

/** A message that is sent back, and whom it goes to. */
export interface Back {
  from: string;
  to: string;
  source: Buffer;
}

/** What it is about: the message as it came, and its envelope. */
export interface About {
  returnPath: string;
  reader: string;
  source: Buffer;
  /** Milliseconds since 1970. */
  at: number;
}

const HOST = "postroom.septima.test";

/** The head of a message. */
const headOf = (source: Buffer): string => {
  const end = source.indexOf("\r\n\r\n");
  return source.subarray(0, end < 0 ? source.length : end).toString("latin1");
};

/** A field of the head, as it stands. */
export const fieldOf = (source: Buffer, name: string): string =>
  new RegExp(`^${name}:[ \\t]*(.*(?:\\r\\n[ \\t].*)*)`, "im")
    .exec(headOf(source))?.[1]
    .replace(/\r\n/g, "") ?? "";

function message(fields: [name: string, value: string][], body: string): Buffer {
  const head = fields.map(([name, value]) => headerLine(name, value)).join("");
  return Buffer.from(`${head}\r\n${body}`, "latin1");
}

function report(
  about: About,
  fields: { from: string; to: string; subject: string; type: string },
  parts: [type: string, body: string][],
): Buffer {
  const boundary = `report-${randomBytes(9).toString("hex")}`;
  const body = parts
    .map(([type, text]) => `--${boundary}\r\nContent-Type: ${type}\r\n\r\n${text}\r\n`)
    .join("");
  return message(
    [
      ["From", fields.from],
      ["To", fields.to],
      ["Subject", fields.subject],
      ["Date", formatDate(about.at)],
      ["Message-ID", `<${randomBytes(9).toString("hex")}@${HOST}>`],
      ["Auto-Submitted", "auto-generated"],
      ["MIME-Version", "1.0"],
      ["Content-Type", `multipart/report; report-type=${fields.type}; boundary="${boundary}"`],
    ],
    `${body}--${boundary}--\r\n`,
  );
}

/** A notification that a message was not delivered after all. @param status enhanced code (RFC 3463), as `5.1.1` */
export function bounce(about: About, { status, words }: { status: string; words: string }): Back {
  const source = report(
    about,
    {
      from: `Postroom <mailer-daemon@${HOST}>`,
      to: about.returnPath,
      subject: "Not delivered",
      type: "delivery-status",
    },
    [
      [
        "text/plain; charset=us-ascii",
        `This message could not be delivered to ${about.reader}: ${words}\r\n`,
      ],
      [
        "message/delivery-status",
        `Reporting-MTA: dns; ${HOST}\r\n\r\nFinal-Recipient: rfc822; ${about.reader}\r\nAction: failed\r\nStatus: ${status}\r\nDiagnostic-Code: smtp; ${words}\r\n`,
      ],
      ["text/rfc822-headers", `${headOf(about.source)}\r\n`],
    ],
  );
  // Of a notification nobody is notified (RFC 5321, 4.5.5).
  return { from: "", to: about.returnPath, source };
}

/** A report that somebody called a message spam. */
export function complaint(about: About): Back {
  const to = about.returnPath;
  const source = report(
    about,
    {
      from: `abuse@${HOST}`,
      to,
      subject: `FW: ${fieldOf(about.source, "Subject")}`,
      type: "feedback-report",
    },
    [
      ["text/plain; charset=us-ascii", "A reader called this message spam.\r\n"],
      [
        "message/feedback-report",
        `Feedback-Type: abuse\r\nUser-Agent: Septima postroom/1\r\nVersion: 1\r\nOriginal-Mail-From: <${about.returnPath}>\r\nOriginal-Rcpt-To: <${about.reader}>\r\n`,
      ],
      ["message/rfc822", about.source.toString("latin1")],
    ],
  );
  return { from: `abuse@${HOST}`, to, source };
}

/** An answer to whoever wrote. */
export function answer(about: About, words: string): Back {
  const to = /<([^<>]+)>/.exec(fieldOf(about.source, "Reply-To") || fieldOf(about.source, "From"))?.[1];
  const plain = to ?? (fieldOf(about.source, "Reply-To") || fieldOf(about.source, "From")).trim();
  const id = fieldOf(about.source, "Message-ID");
  const source = message(
    [
      ["From", about.reader],
      ["To", plain],
      ["Subject", `Re: ${fieldOf(about.source, "Subject")}`],
      ["Date", formatDate(about.at)],
      ["Message-ID", `<${randomBytes(9).toString("hex")}@${HOST}>`],
      ["In-Reply-To", id],
      ["MIME-Version", "1.0"],
      ["Content-Type", "text/plain; charset=us-ascii"],
    ],
    `${words}\r\n`,
  );
  return { from: about.reader, to: plain, source };
}
