import { describe, expect, it } from "vitest";
import { csvText } from "../src/shared/saveTable";

describe("answers saved as CSV", () => {
  it("keeps every digit, and nothing for what there is not", () => {
    expect(csvText(["a", "b", "c"], [[436192926612432.1, null, undefined]])).toBe(
      "a,b,c\n436192926612432.1,,\n",
    );
  });

  it("quotes what needs it (RFC 4180, section 2)", () => {
    expect(csvText(["a"], [['say "so", twice']])).toBe('a\n"say ""so"", twice"\n');
  });

  it("lets no text become a formula, and leaves numbers alone", () => {
    expect(csvText(["a", "b"], [["=1+1", -5]])).toBe("a,b\n'=1+1,-5\n");
  });
});
