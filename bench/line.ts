/** What was measured, what came out, and what is to be reached; an empty goal where there is none. */
export type Line = [what: string, result: string, goal: string];
