import { describe, expect, it } from "vitest";
import { nameOf } from "./download";

describe("the name of a downloaded file", () => {
  it("is the one in whole letters where there is one", () => {
    const header =
      "attachment; filename=\"Uber.srt\"; filename*=UTF-8''%C3%9Cber%20%F0%9F%A7%B5.srt";
    expect(nameOf(header)).toBe("Über 🧵.srt");
  });
  it("is the plain one, or none", () => {
    expect(nameOf('attachment; filename="glossary.csv"')).toBe("glossary.csv");
    expect(nameOf("attachment; filename*=UTF-8''%E0%A4%A")).toBe("");
    expect(nameOf(null)).toBe("");
  });
});
