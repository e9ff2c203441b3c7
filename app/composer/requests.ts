export type Answer<T> = { problem: null; result: T } | { problem: string; result: null };

/** Asks the server to do something; that it cannot be reached is an answer, too. */
export async function ask<T>(path: "/themes" | "/clippings", body: unknown): Promise<Answer<T>> {
  try {
    const response = await fetch(path, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
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
