import { client, ProblemError, unwrap } from "./client";

type Kind = "size" | "number" | "whole" | "speed" | "duration" | "duration words" | "date";

/** What a text says where a number or a size is wanted: its value, or why it says none. The core is what reads it. */
export async function readTyped(
  kind: Kind,
  text: string,
  before: string | number | null = null,
): Promise<{ value: string | number } | { why: string }> {
  try {
    return await unwrap(client.POST("/api/typed", { body: { kind, text: text.trim(), before } }));
  } catch (error) {
    return { why: error instanceof ProblemError ? error.words : "This cannot be read just now" };
  }
}
