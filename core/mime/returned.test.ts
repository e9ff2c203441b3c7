import fc from "fast-check";
import { expect, test } from "vitest";
import { decodeWords, encodeWords, readReturned, severity } from ".";

const read = (lines: string) =>
  readReturned(new TextEncoder().encode(lines.trimStart().replace(/\n/g, "\r\n")));

/** As RFC 3464 shows one (appendix E), with other names. */
const BOUNCE = `
Return-Path: <>
Date: Thu, 7 Jul 2026 17:16:05 -0400
From: Mail Delivery Subsystem <MAILER-DAEMON@mx.fern.example>
To: r-abc-1-xyz@returns.marl.example
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status;
      boundary="RAA14128.773615765/mx.fern.example"
Subject: =?UTF-8?Q?Not_delivered=3A_B=C3=A4?=
Auto-Submitted: auto-generated (failure)

The original message was received. It could not be delivered.

--RAA14128.773615765/mx.fern.example

   ----- The following addresses had fatal errors -----
<ines@fern.example>

--RAA14128.773615765/mx.fern.example
content-type: message/delivery-status

Reporting-MTA: dns; mx.fern.example
Arrival-Date: Thu, 7 Jul 2026 17:15:49 -0400

Original-Recipient: rfc822;ines@fern.example
Final-Recipient: RFC822; <ines@box.fern.example>
Action: failed
Status: 5.0.0
Diagnostic-Code: smtp; 550 5.1.1 No such user
 here
Last-Attempt-Date: Thu, 7 Jul 2026 17:15:49 -0400

--RAA14128.773615765/mx.fern.example
content-type: message/rfc822
Content-Transfer-Encoding: quoted-printable

Return-Path: <r-abc-1-xyz@returns.marl.example>
From: letters@marl.example
Message-ID: =3Cd1.1.1.ab@marl.example>
Subject: Beans

Sow them.
--RAA14128.773615765/mx.fern.example--
`;

/** As RFC 5965 shows one (appendix B), with other names. */
const COMPLAINT = `
From: <abuse@fern.example>
Date: Thu, 8 Mar 2026 14:00:00 EDT
Subject: FW: Beans
To: <abuse@marl.example>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=feedback-report; boundary=part1_13d.2e68ed54_boundary

--part1_13d.2e68ed54_boundary
Content-Type: text/plain; charset="US-ASCII"
Content-Transfer-Encoding: 7bit

This is an email abuse report for an email message received from IP 192.0.2.1.
--part1_13d.2e68ed54_boundary
Content-Type: message/feedback-report

Feedback-Type: abuse
User-Agent: SomeGenerator/1.0
Version: 1
Original-Mail-From: <r-abc-2-xyz@returns.marl.example>

--part1_13d.2e68ed54_boundary
Content-Type: message/rfc822
Content-Disposition: inline
Content-Transfer-Encoding: base64

${btoa("From: letters@marl.example\r\nMessage-ID: <d1.2.1.cd@marl.example>\r\nSubject: Beans\r\n\r\nSow.\r\n")}
--part1_13d.2e68ed54_boundary--
`;

test("a notification says of whom, how bad, in whose words, and which message it was", () => {
  const bounce = read(BOUNCE);
  expect(bounce).toEqual({
    kind: "bounce",
    from: "MAILER-DAEMON@mx.fern.example",
    subject: "Not delivered: Bä",
    statuses: [
      {
        address: "ines@box.fern.example",
        action: "failed",
        status: "5.1.1",
        words: "550 5.1.1 No such user here",
      },
    ],
    feedback: "",
    about: ["d1.1.1.ab@marl.example"],
    addresses: ["r-abc-1-xyz@returns.marl.example"],
  });
  expect(severity(bounce.statuses[0])).toBe("gone");
});

test("a delay, a delivery and a report of spam are told apart", () => {
  expect(read(BOUNCE.replace("Action: failed", "Action: delayed")).kind).toBe("delay");
  expect(read(BOUNCE.replace("Action: failed", "Action: delivered")).kind).toBe("delivered");
  const complaint = read(COMPLAINT);
  expect(complaint).toMatchObject({
    kind: "complaint",
    feedback: "abuse",
    about: ["d1.2.1.cd@marl.example"],
    addresses: ["abuse@marl.example", "r-abc-2-xyz@returns.marl.example"],
  });
});

test("who answers and what answers by itself", () => {
  const answer = (more: string) =>
    read(
      `From: Ines <ines@fern.example>\nTo: letters@marl.example\n${more}In-Reply-To: <d1.3.1.ef@marl.example>\nReferences: <a@b.example>\n <d1.3.1.ef@marl.example>\n\nThanks.\n`,
    );
  expect(answer("")).toMatchObject({
    kind: "reply",
    from: "ines@fern.example",
    about: ["d1.3.1.ef@marl.example", "a@b.example"],
  });
  expect(answer("Auto-Submitted: no\n").kind).toBe("reply");
  for (const more of ["Auto-Submitted: auto-replied\n", "Precedence: bulk\n", "Return-Path: <>\n"])
    expect(answer(more).kind).toBe("automatic");
});

test.each([
  ["5.1.1", "", "gone"],
  ["5.1.10", "", "gone"],
  ["5.2.1", "", "gone"],
  ["5.2.2", "552 mailbox full", "soft"],
  ["5.1.7", "bad sender", "soft"],
  ["5.1.8", "bad sender", "soft"],
  ["5.7.1", "550 5.7.1 spam", "soft"],
  ["4.4.7", "expired", "soft"],
  ["", "550 no such user", "gone"],
  ["5.0.0", "554 refused", "soft"],
  ["5.0.0", "551 moved", "gone"],
] as const)("%s “%s” is %s", (status, words, wanted) => {
  expect(severity({ address: "", action: "failed", status, words })).toBe(wanted);
});

test("whatever comes is read, and quickly", () => {
  const pieces = [
    BOUNCE,
    COMPLAINT,
    "\n\n",
    "--",
    "boundary=",
    "Content-Type: multipart/report; boundary=a\n\n--a\n",
    "x".repeat(300),
    "=?q?b?=",
    "\0",
  ];
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom(...pieces), { maxLength: 12 }),
      fc.uint8Array({ maxLength: 60 }),
      (text, octets) => {
        const begun = performance.now();
        const { kind } = readReturned(
          Uint8Array.from([...new TextEncoder().encode(text.join("")), ...octets]),
        );
        expect(kind).toBeTruthy();
        expect(performance.now() - begun).toBeLessThan(500);
      },
    ),
    { numRuns: 300 },
  );
  const deep = `${Array.from({ length: 3000 }, (_, at) => `Content-Type: multipart/mixed; boundary=b${at}\n\n--b${at}\n`).join("")}`;
  const begun = performance.now();
  read(deep + BOUNCE);
  read(`${BOUNCE.slice(0, 900)}${" ".repeat(900_000)}`);
  read(`Subject: ${"\n a".repeat(300_000)}\n\n`);
  expect(performance.now() - begun).toBeLessThan(3000);
});

test("encoded words are decoded, whoever encoded them", () => {
  expect(decodeWords("=?UTF-8?B?S8OkdGhl?= =?utf-8?q?_&_Co=2E?=")).toBe("Käthe & Co.");
  expect(decodeWords("=?iso-8859-1*de?q?K=E4the?=")).toBe("Käthe");
  expect(decodeWords("=?x-nothing?q?K=E4the?=")).toBe("=?x-nothing?q?K=E4the?=");
  fc.assert(
    fc.property(fc.string({ unit: "grapheme" }), (text) => {
      const clean = text.replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, " ").trim();
      expect(decodeWords(encodeWords(text))).toBe(clean);
    }),
  );
});
