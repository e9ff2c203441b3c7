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

/** The same for a JSON body. */
export async function jsonInput<T>(request: Request, schema: { parse(value: unknown): T }): Promise<T> {
  const text = await request.text();
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return refused("The request holds no JSON.");
  }
  return input(schema, value);
}

/** The fields of a form that was sent. */
export async function formInput(request: Request): Promise<FormData> {
  try {
    return await request.formData();
  } catch {
    return refused("The request holds no form.");
  }
}

/** A form's fields by a schema. */
export async function fieldsInput<T>(request: Request, schema: { parse(value: unknown): T }): Promise<T> {
  return input(schema, Object.fromEntries(await formInput(request)));
}

/** JSON in a field of a form. */
export function jsonOf(field: FormDataEntryValue | null): unknown {
  try {
    return JSON.parse(String(field));
  } catch {
    return refused("A field that should hold JSON does not.");
  }
}
