/** What comes in from outside: read at the door, and refused there with the field that is wrong. */
import { data } from "react-router";
import { z } from "zod";
import { UnreadableDesign } from "~/core/email";

function refused(words: string): never {
  throw data(words, { status: 400 });
}

/**
 * Reads what came in by a schema.
 * @throws a response 400 that names the field
 */
export function input<T>(schema: { parse(value: unknown): T }, value: unknown): T {
  try {
    return schema.parse(value);
  } catch (error) {
    if (error instanceof z.ZodError) {
      const [{ path, message }] = error.issues;
      return refused(
        `“${path.length > 0 ? path.join(" › ") : "The whole"}” is not as it should be: ${message}.`,
      );
    }
    if (error instanceof UnreadableDesign) return refused(error.message);
    throw error;
  }
}

/** So deep may anything be nested: a design is not half as deep. */
const DEEPEST = 400;

/** Refuses what no text holds: NUL, which the database does not take, and halves of signs. */
function refuseOdd(text: string): void {
  if (text.includes("\0") || !text.isWellFormed()) refused("It holds a sign that no text has.");
}

/** Looks through a value of any depth without going down into it. */
function refuseHostile(value: unknown): void {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST) refused("It is nested too deep to be read.");
    const next: unknown[] = [];
    for (const one of level) {
      if (typeof one === "string") refuseOdd(one);
      else if (typeof one === "object" && one !== null) {
        if (!Array.isArray(one)) for (const key of Object.keys(one)) refuseOdd(key);
        for (const part of Object.values(one)) next.push(part);
      }
    }
    level = next;
  }
}

/** JSON from outside. */
function readJson(text: string, otherwise: string): unknown {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return refused(otherwise);
  }
  refuseHostile(value);
  return value;
}

/** The same for a JSON body. */
export async function jsonInput<T>(request: Request, schema: { parse(value: unknown): T }): Promise<T> {
  return input(schema, readJson(await request.text(), "The request holds no JSON."));
}

/** The fields of a form that was sent. */
export async function formInput(request: Request): Promise<FormData> {
  let form: FormData;
  try {
    form = await request.formData();
  } catch {
    return refused("The request holds no form.");
  }
  for (const [key, value] of form) {
    refuseOdd(key);
    if (typeof value === "string") refuseOdd(value);
  }
  return form;
}

/** A form's fields by a schema. */
export async function fieldsInput<T>(request: Request, schema: { parse(value: unknown): T }): Promise<T> {
  return input(schema, Object.fromEntries(await formInput(request)));
}

/** JSON in a field of a form. */
export function jsonOf(field: FormDataEntryValue | null): unknown {
  return readJson(String(field), "A field that should hold JSON does not.");
}
