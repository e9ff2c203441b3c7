export type Answer<T> = { problem: null; result: T } | { problem: string; result: null };

/**
 * Asks the server for something, or with a body to do something; that it cannot be reached is an answer, too. Whoever
 * aborts it needs none.
 */
export async function ask<T>(
  path:
    | "/themes"
    | "/clippings"
    | "/assist"
    | "/audience/fields/change"
    | "/lookups/change"
    | "/referrals/change"
    | "/sources/codes",
  body?: unknown,
  signal?: AbortSignal,
): Promise<Answer<T>> {
  try {
    const response = await fetch(path, {
      signal,
      ...(body !== undefined && {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify(body),
      }),
    });
    if (response.headers.get("content-type")?.includes("json")) return (await response.json()) as Answer<T>;
    return { problem: (await response.text()).slice(0, 300) || "It could not be done.", result: null };
  } catch {
    return {
      problem: "Septima cannot be reached. Nothing is lost; try again when it is back.",
      result: null,
    };
  }
}
