import { describe, expect, it } from "vitest";
import { ProblemError, staleProblem, unwrap } from "../src/api/client";

const refused = (error: object, status = 422) =>
  unwrap(Promise.resolve({ error, response: new Response(null, { status }) })).catch(
    (caught: unknown) => caught,
  );

describe("answers of the server", () => {
  it("give their data", async () => {
    await expect(unwrap(Promise.resolve({ data: 7, response: new Response() }))).resolves.toBe(7);
  });

  it("name their faults in words", async () => {
    const faults = [{ path: "a", message: "expected a size" }];
    const caught = await refused({ type: "x", title: "Not sound", status: 422, detail: "long", faults });
    expect(caught).toBeInstanceOf(ProblemError);
    expect((caught as ProblemError).words).toBe("expected a size");
  });

  it("tell a stale edit from other refusals", async () => {
    const stale = await refused(
      { type: "urn:rested-shelf:problem:stale", title: "Changed", status: 409, entries: [{ who: "nils" }] },
      409,
    );
    expect(staleProblem(stale)?.entries?.[0]?.who).toBe("nils");
    expect(staleProblem(new Error("other"))).toBeNull();
  });

  it("say when nothing was reached", async () => {
    const caught = await unwrap(Promise.reject(new TypeError("network"))).catch((error: unknown) => error);
    expect((caught as ProblemError).problem.status).toBe(0);
  });
});
