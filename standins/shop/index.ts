/**
 * The shop: what the demo nursery sells, as the files that shops export, over HTTP.
 *
 * `Shop.answer` takes a path and gives the answer; whoever has an HTTP server puts it behind an address.
 */
import { type Answer, drawnPicture } from "../drawn";
import { type Product, products } from "./products";

const DAY = 86_400_000;
const xml = (text: string) =>
  text.replace(
    /[&<>"]/g,
    (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign] ?? sign,
  );
const cell = (value: string) => (/[",\n]/.test(value) ? `"${value.replaceAll('"', '""')}"` : value);

export class Shop {
  /** @param base the address it is reached at, without a slash at the end; @param now the moment products are dated from */
  constructor(
    private readonly base: string,
    private readonly now: () => number,
  ) {}

  /** Answers a GET; `null` when there is nothing under the path. */
  async answer(path: string): Promise<Answer | null> {
    switch (path) {
      case "/products.xml":
        return { status: 200, type: "application/xml", body: this.xml() };
      case "/products.csv":
        return { status: 200, type: "text/csv; charset=utf-8", body: this.csv() };
    }
    return drawnPicture(path);
  }

  private picture = ({ picture }: Product) => (picture ? `${this.base}/pictures/${picture}.png` : "");
  private link = ({ sku }: Product) => `https://tansyrow.example/shop/${sku}`;
  private since = ({ age }: Product) =>
    new Date(Math.floor(this.now() / DAY) * DAY - age * DAY).toISOString().slice(0, 10);

  private xml(): string {
    const items = products().map((one) => {
      const lines: [string, string][] = [
        ["id", one.sku],
        ["title", one.title],
        ["description", one.text],
        ["link", this.link(one)],
        ["image_link", this.picture(one)],
        ["price", `${one.price.toFixed(2)} GBP`],
        ["sale_price", one.sale === null ? "" : `${one.sale.toFixed(2)} GBP`],
        ["quantity", String(one.stock)],
        ["product_type", one.category.join(" > ")],
        ["date", this.since(one)],
        ["sow", one.months],
        ["zones", one.zones.join(";")],
      ];
      const said = lines.filter(([, value]) => value !== "");
      return `<product>${said.map(([name, value]) => `<${name}>${xml(value)}</${name}>`).join("")}</product>`;
    });
    return `<?xml version="1.0" encoding="UTF-8"?>\n<products>\n${items.join("\n")}\n</products>\n`;
  }

  private csv(): string {
    const head = "sku,title,description,url,image,price,sale_price,stock,category,listed,sow,zones";
    const lines = products().map((one) =>
      [
        one.sku,
        one.title,
        one.text,
        this.link(one),
        this.picture(one),
        one.price.toFixed(2),
        one.sale?.toFixed(2) ?? "",
        String(one.stock),
        one.category.join(" > "),
        this.since(one),
        one.months,
        one.zones.join(";"),
      ]
        .map(cell)
        .join(","),
    );
    return `${[head, ...lines].join("\r\n")}\r\n`;
  }
}
