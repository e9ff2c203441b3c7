import { isAddress } from "../audience";
import {
  type Bound,
  type BytePart,
  ByteSink,
  bytePart,
  type Reader,
  run,
  runBytes,
  textOf,
} from "../personal";
import { encodeWords, formatAddress, formatDate, headerLine } from "./header";
import { quotedPrintable } from "./quoted-printable";

const ascii = new TextEncoder();

/** The head of the part in plain text. */
const PLAIN =
  "Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n";

/** What all messages of one dispatch share. */
export interface Headers {
  /** The sender's address for readers for whom the program gives none that can be one. */
  from: string;
  /** `List-Id` (RFC 2919): the dispatch's list by name and domain. */
  listId: { name: string; domain: string };
  /** `Feedback-ID`: campaign and sender, so that complaints can be told apart. */
  feedbackId?: string;
  /** For proofs, which say so in a field of their own: what is put before the subject. */
  proof?: { subjectPrefix: string };
}

/** The address a reader gets it from. @param otherwise where the program gives none that can be one */
export function senderOf(bound: Bound, reader: Reader, otherwise: string): string {
  const own = run(bound.senderAddress, bound, reader).trim();
  return isAddress(own) ? own : otherwise;
}

/** What is this message's own. */
export interface Delivery {
  to: { name: string; address: string };
  /** Without angle brackets, unique for ever. */
  messageId: string;
  /** Milliseconds since 1970. */
  date: number;
  /** The https address for List-Unsubscribe (RFC 2369, RFC 8058); left out in proofs. */
  unsubscribe?: string;
}

/**
 * Builds the messages of one dispatch. Static text is encoded to quoted-printable once; for each reader only their
 * values are encoded and everything is copied together.
 */
export class MessageFactory {
  private readonly html: BytePart;
  private readonly text: BytePart;
  private readonly sink = new ByteSink();
  private readonly between: Uint8Array;
  private readonly end: Uint8Array;

  constructor(
    private readonly bound: Bound,
    private readonly headers: Headers,
    /** Any token that does not stand in a message by chance, of letters, digits and hyphens. */
    private readonly boundary: string,
  ) {
    this.html = bytePart(bound.html, quotedPrintable);
    this.text = bytePart(bound.text, quotedPrintable);
    this.between = ascii.encode(
      `\r\n--${boundary}\r\nContent-Type: text/html; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n`,
    );
    this.end = ascii.encode(`\r\n--${boundary}--\r\n`);
  }

  /** The octets with which the body of each of its messages begins. */
  get opening(): Uint8Array {
    const { bound, boundary, text, sink } = this;
    if (!bound.only) sink.write(ascii.encode(`--${boundary}\r\n${PLAIN}`));
    const [first] = text.ops;
    if (!bound.finish && first?.op === "static") sink.write(first.bytes);
    return sink.take();
  }

  /** A complete message with CRLF line ends; dot-stuffing is left to the transport. */
  build(reader: Reader, envelope: Delivery): Uint8Array {
    const { bound, headers, boundary, sink } = this;
    const subject = run(bound.subject, bound, reader);
    const sender = run(bound.senderName, bound, reader);
    const name = run(bound.recipient, bound, reader).trim() || envelope.to.name;
    const replyTo = run(bound.replyTo, bound, reader).trim();
    let head =
      headerLine("From", formatAddress(sender, this.from(reader))) +
      headerLine("To", formatAddress(name, envelope.to.address)) +
      headerLine("Subject", encodeWords(`${headers.proof?.subjectPrefix ?? ""}${subject.trim()}`)) +
      headerLine("Date", formatDate(envelope.date)) +
      headerLine("Message-ID", `<${envelope.messageId}>`) +
      headerLine(
        "List-Id",
        `${encodeWords(headers.listId.name).replace(/[<>",]/g, "")} <${headers.listId.domain}>`,
      );
    if (isAddress(replyTo)) head += headerLine("Reply-To", formatAddress("", replyTo));
    if (headers.proof) head += headerLine("Septima-Proof", "yes");
    if (headers.feedbackId) head += headerLine("Feedback-ID", headers.feedbackId);
    if (envelope.unsubscribe) {
      head += headerLine("List-Unsubscribe", `<${envelope.unsubscribe}>`);
      head += headerLine("List-Unsubscribe-Post", "List-Unsubscribe=One-Click");
      // The page that says which letters there are, and changes nothing by being opened (RFC 2369, 3.1).
      head += headerLine("List-Help", `<${envelope.unsubscribe}>`);
    }
    head += "MIME-Version: 1.0\r\n";
    if (bound.only) {
      sink.write(ascii.encode(head + PLAIN));
      this.writeText(reader);
      return sink.take();
    }
    head +=
      `Content-Type: multipart/alternative; boundary="${boundary}"\r\n\r\n` + `--${boundary}\r\n${PLAIN}`;
    sink.write(ascii.encode(head));
    this.writeText(reader);
    sink.write(this.between);
    runBytes(this.html, bound, reader, sink);
    sink.write(this.end);
    return sink.take();
  }

  /** From whose address a reader gets it. */
  from(reader: Reader): string {
    return senderOf(this.bound, reader, this.headers.from);
  }

  private writeText(reader: Reader): void {
    if (this.bound.finish) this.sink.write(quotedPrintable(textOf(this.bound, reader)));
    else runBytes(this.text, this.bound, reader, this.sink);
  }
}
