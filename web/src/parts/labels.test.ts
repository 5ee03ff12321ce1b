import { describe, expect, it } from "vitest";

import { bagIn } from "./labels";

describe("the number on a label", () => {
  it("is found in the address that the code holds", () => {
    expect(bagIn("https://shop.test/jobs/a/work/b/parts?bag=17")).toBe("17");
  });
  it("can be typed", () => {
    expect(bagIn(" 17 ")).toBe("17");
    expect(bagIn("tray-2")).toBe("tray-2");
  });
  it("is not read out of anything else", () => {
    expect(bagIn("https://elsewhere.test/?q=17")).toBeNull();
    expect(bagIn("https://shop.test/parts?bag=%3Cscript%3E")).toBeNull();
    expect(bagIn("")).toBeNull();
  });
});
