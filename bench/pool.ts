/** What handing letters over is measured against. */
import nodemailer from "nodemailer";

const LETTERS = 2000;

/** Letters a second that the mail library's own pool hands over to a server on this machine. @param bytes of each */
export async function poolRate(port: number, bytes: number): Promise<number> {
  const pool = nodemailer.createTransport({
    host: "127.0.0.1",
    port,
    pool: true,
    maxConnections: 6,
    maxMessages: Number.POSITIVE_INFINITY,
    ignoreTLS: true,
  });
  const html = `<p>${"What to sow, to plant and to do. ".repeat(bytes / 33)}</p>`;
  const begun = performance.now();
  await Promise.all(
    Array.from({ length: LETTERS }, (_, at) =>
      pool.sendMail({
        from: "letters@marlmoss.example",
        to: `reader${at}@mail.example`,
        subject: `Letter for Name ${at}`,
        html: html + at,
      }),
    ),
  );
  pool.close();
  return LETTERS / ((performance.now() - begun) / 1000);
}
