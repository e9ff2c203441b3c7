/**
 * The cheapest SMTP server there can be: it says yes to everything, keeps nothing, and tells its port on a line. A number on its
 * standard input is how many milliseconds it takes from now on to say yes to a message.
 */
import net, { type AddressInfo } from "node:net";

let wait = 0;
process.stdin.on("data", (chunk) => {
  wait = Number(chunk.toString());
});

const server = net.createServer((socket) => {
  let inMessage = false;
  let rest = "";
  socket.setNoDelay(true);
  socket.write("220 sink\r\n");
  socket.on("error", () => undefined);
  socket.on("data", (chunk) => {
    let text = rest + chunk.toString("latin1");
    rest = "";
    let said = "";
    for (;;) {
      if (inMessage) {
        const end = text.indexOf("\r\n.\r\n");
        if (end < 0) {
          rest = text.slice(-4);
          break;
        }
        inMessage = false;
        if (wait > 0) setTimeout(() => socket.write("250 ok\r\n"), wait);
        else said += "250 ok\r\n";
        text = text.slice(end + 5);
        continue;
      }
      const line = text.indexOf("\r\n");
      if (line < 0) {
        rest = text;
        break;
      }
      const verb = text.slice(0, 4).toUpperCase();
      text = text.slice(line + 2);
      if (verb === "EHLO") said += "250-sink\r\n250-PIPELINING\r\n250 8BITMIME\r\n";
      else if (verb === "DATA") {
        inMessage = true;
        said += "354 go on\r\n";
      } else said += verb === "QUIT" ? "221 bye\r\n" : "250 ok\r\n";
    }
    if (said !== "") socket.write(said);
  });
});
server.listen(0, "127.0.0.1", () => process.stdout.write(`${(server.address() as AddressInfo).port}\n`));
