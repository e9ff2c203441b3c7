import { AssistantError } from "~/core/assistant";
import { Refusal } from "../refusal";

/** Reads what an assistant sent. @throws Refusal in a sentence when it cannot be used */
export async function usable<T>(read: () => T | Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof AssistantError)
      throw new Refusal(`What the assistant sent cannot be used: ${error.message}. Nothing has changed.`);
    throw error;
  }
}
