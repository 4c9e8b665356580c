import { describe, expect, it } from "vitest";
import { bytesText, countText, exactBytesText, percentText, signed, writtenDate } from "../src/shared/format";

describe("how figures are written", () => {
  it.each([
    [0, "0 B"],
    [0.3, "0 B"],
    [512, "512 B"],
    [999, "999 B"],
    [1000, "1.00 kB"],
    [999_999, "1.00 MB"],
    [22_400_000_000_000, "22.4 TB"],
    [150_000_000_000_000, "150 TB"],
    [99_960_000_000_000, "100 TB"],
    [-3_210_000_000, "−3.21 GB"],
    [5e20, "500 EB"],
  ])("%d bytes are %s", (bytes, text) => {
    expect(bytesText(bytes)).toBe(text);
  });

  it.each([
    [0, "0 B"],
    [512, "512 B"],
    [436_192_926_612_432, "436.193 TB"],
    [99_999_960_000_000, "100.000 TB"],
    [9_999_999_999_999, "10.0000 TB"],
    [-1_234_567_890, "−1.23457 GB"],
  ])("%d bytes that are read off are %s", (bytes, text) => {
    expect(exactBytesText(bytes)).toBe(text);
  });

  it("groups thousands by narrow spaces and keeps the sign", () => {
    expect(countText(4754)).toBe("4\u202f754");
    expect(countText(-1234567)).toBe("−1\u202f234\u202f567");
    expect(signed(countText(12))).toBe("+12");
    expect(signed(countText(-12))).toBe("−12");
  });

  it("writes dates out and shares as percent", () => {
    expect(writtenDate("2027-06-09")).toBe("9 June 2027");
    expect(percentText(0.934)).toBe("93 %");
  });
});
