import { describe, expect, it } from "vitest";
import { placeOf, queryOf } from "./address";

describe("the address", () => {
  it("says piece, stage and caption, and is read back", () => {
    const place = { piece: 3, stage: "Trim", caption: 41 } as const;
    expect(queryOf(place)).toBe("?piece=3&stage=trim&caption=41");
    expect(placeOf(queryOf(place))).toEqual(place);
  });

  it("says nothing of what is none of ours", () => {
    const nothing = { piece: null, stage: null, caption: null };
    expect(placeOf("?piece=x&stage=kitchen&caption=-1")).toEqual(nothing);
    expect(placeOf("?piece=99999999999999999999&caption=1e3")).toEqual(nothing);
    expect(placeOf("")).toEqual(nothing);
  });
});
