import { afterEach, describe, expect, it } from "vitest";
import { countText, moneyText, writtenDate } from "../src/shared/format";
import { AT_FIRST, chooseStyle, monthText, restyled } from "../src/shared/style";

afterEach(() => chooseStyle(AT_FIRST));

const answer = () => ({
  points: [1, 2, 3],
  on: "2028-12-31",
  name: "Audit of 2028-12-31",
  sentence: "On 2028-12-31 there are 12\u202f345 points, 1\u202f234\u202f567 before.",
  rows: [{ why: "kept until 2029-01-05 22:00", taken: "2028-12-31T22:00" }],
  sentences: ["2028-02-29T10:00 stays", "on 1 June 2027"],
  document: { sentence: "1\u202f000 on 2028-12-31" },
});

describe("figures as a person likes them", () => {
  it("are in threes with narrow spaces, with dates in words, where nothing was chosen", () => {
    expect([countText(1234567), writtenDate("2028-12-31"), monthText("2028-12-31")]).toEqual([
      "1\u202f234\u202f567",
      "31 December 2028",
      "December 2028",
    ]);
    expect(restyled(answer()).sentence).toBe(
      "On 31 December 2028 there are 12\u202f345 points, 1\u202f234\u202f567 before.",
    );
  });

  it.each([
    ["comma", "1,234,567", "12,345"],
    ["apostrophe", "1’234’567", "12’345"],
    ["none", "1234567", "12345"],
  ] as const)("have a %s between thousands, in sentences of the server too", (digits, count, said) => {
    chooseStyle({ digits, dates: "iso" });
    expect([countText(1234567), moneyText(-1234567, "EUR")]).toEqual([count, `EUR\u00a0−${count}`]);
    expect(restyled(answer()).sentence).toBe(`On 2028-12-31 there are ${said} points, ${count} before.`);
  });

  it("have dates as ISO has them wherever somebody wants them so", () => {
    chooseStyle({ digits: "space", dates: "iso" });
    expect([writtenDate("2028-12-31"), monthText("2028-12-31")]).toEqual(["2028-12-31", "2028-12"]);
    expect(restyled(answer()).sentences[1]).toBe("on 2027-06-01");
  });

  it("leave names, values, instants and the document as they are", () => {
    chooseStyle({ digits: "comma", dates: "words" });
    const said = restyled(answer());
    expect([said.on, said.name, said.points, said.document.sentence]).toEqual([
      "2028-12-31",
      "Audit of 2028-12-31",
      [1, 2, 3],
      "1\u202f000 on 2028-12-31",
    ]);
    expect(said.rows).toEqual([{ why: "kept until 5 January 2029 22:00", taken: "2028-12-31T22:00" }]);
    expect(said.sentences[0]).toBe("2028-02-29T10:00 stays");
  });
});
