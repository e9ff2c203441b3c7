/** What stands in the columns of a file. */
import { type FieldKind, isAddress } from "../audience";
import { type DateOrder, readBoolean, readDate, readNumber } from "./read-value";

export interface ColumnFacts {
  name: string;
  /** In how many lines it has something. */
  filled: number;
  /** Some of what it has. */
  samples: string[];
  /** How many different values it has, as far as they were counted. */
  different: number;
  kind: FieldKind | "address";
  /** Whether an address stands in it, somewhere. */
  addresses: boolean;
  /** How its days are written. */
  dates: DateOrder;
  /** What parts whole numbers from what is after them. */
  decimal: "." | ",";
}

/** So many different values are remembered of a column. */
const REMEMBERED = 40;
const SAMPLES = 4;
/** A share of values that must fit for a column to be of a kind. */
const FITTING = 0.9;

/** Watches the cells of one column pass. */
export class ColumnWatch {
  private filled = 0;
  private readonly values = new Map<string, number>();
  private addresses = 0;
  private booleans = 0;
  private days = { dmy: 0, mdy: 0 };
  private numbers = { ".": 0, ",": 0 };
  private parted = 0;
  private readonly samples: string[] = [];

  constructor(
    private readonly name: string,
    private readonly thisYear: number,
  ) {}

  take(cell: string): void {
    const text = cell.trim();
    if (text === "") return;
    this.filled += 1;
    const short = text.length > 200 ? `${text.slice(0, 200)}…` : text;
    if (this.samples.length < SAMPLES && !this.samples.includes(short)) this.samples.push(short);
    if (this.values.size <= REMEMBERED) this.values.set(short, (this.values.get(short) ?? 0) + 1);
    // What kind it is, the first thousands tell.
    if (this.filled > 5000) return;
    if (isAddress(text)) this.addresses += 1;
    if (readBoolean(text) !== null) this.booleans += 1;
    if (/\d/.test(text) && text.length < 40) {
      if (readDate(text, "dmy", this.thisYear)) this.days.dmy += 1;
      if (readDate(text, "mdy", this.thisYear)) this.days.mdy += 1;
      if (readNumber(text, ".") !== null) this.numbers["."] += 1;
      if (readNumber(text, ",") !== null) this.numbers[","] += 1;
    }
    if (/[;|]/.test(text)) this.parted += 1;
  }

  facts(): ColumnFacts {
    const seen = Math.min(this.filled, 5000);
    const most = (number: number) => seen > 0 && number >= seen * FITTING;
    const dates: DateOrder = this.days.mdy > this.days.dmy ? "mdy" : "dmy";
    const decimal = this.numbers[","] > this.numbers["."] ? "," : ".";
    const few = this.values.size <= seen / 3 && this.samples.every((sample) => sample.length <= 60);
    // A long row of digits, or one that begins with a zero, is a number of something and not a quantity.
    const codes = this.samples.some((sample) => /^0\d|^\+|^\d{9,}$/.test(sample));
    const kind: ColumnFacts["kind"] = most(this.addresses)
      ? "address"
      : most(Math.max(this.days.dmy, this.days.mdy))
        ? "date"
        : most(this.booleans) && this.values.size <= 3
          ? "boolean"
          : most(this.numbers[decimal]) && !codes
            ? "number"
            : this.parted > seen / 4
              ? "set"
              : few && this.values.size > 1 && this.values.size <= 12
                ? "choice"
                : "text";
    return {
      name: this.name,
      filled: this.filled,
      samples: this.samples,
      different: this.values.size,
      kind,
      addresses: this.addresses > 0,
      dates,
      decimal,
    };
  }
}
