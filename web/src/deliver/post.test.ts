import { expect, test } from "vitest";
import { pasteText, tagsOf } from "./post";

test("tags are read with or without their signs, each once", () => {
  expect(tagsOf("#tea kettle, #tea  mend#it")).toEqual(["tea", "kettle", "mend", "it"]);
  expect(tagsOf("  ")).toEqual([]);
  expect(tagsOf(Array.from({ length: 40 }, (_, n) => `t${n}`).join(" "))).toHaveLength(30);
});

test("a post is pasted with empty lines between its parts, without those that are not there", () => {
  expect(pasteText({ title: "Tea", text: "", tags: ["a", "b"] })).toBe("Tea\n\n#a #b");
  expect(pasteText({ title: "", text: "", tags: [] })).toBe("");
});
