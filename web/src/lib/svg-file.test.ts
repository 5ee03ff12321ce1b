import { afterAll, describe, expect, it, vi } from "vitest";

import { svgFile } from "./svg-file";

/** As much of an element as the function asks for. */
class Drawing {
  attributes = new Map<string, string>();
  handles = [{ remove: vi.fn() }, { remove: vi.fn() }];
  cloneNode() {
    return this;
  }
  setAttribute(name: string, value: string) {
    if (name === "style") throw new Error("the page's policy allows no style attribute");
    this.attributes.set(name, value);
  }
  querySelectorAll() {
    return this.handles;
  }
}

describe("a drawing as a file", () => {
  vi.stubGlobal(
    "XMLSerializer",
    class {
      serializeToString(one: Drawing) {
        return `<svg xmlns="${one.attributes.get("xmlns") ?? ""}"><text>200 mm</text></svg>`;
      }
    },
  );
  afterAll(() => vi.unstubAllGlobals());

  it("stands alone: name space, colours and type are in it, handles are not", async () => {
    const drawing = new Drawing();
    const text = await svgFile(drawing as unknown as SVGSVGElement).text();
    expect(text).toContain('xmlns="http://www.w3.org/2000/svg"');
    expect(text).toMatch(/^<svg style="color:#1c1f22/);
    expect(text).toContain("200 mm");
    for (const handle of drawing.handles) expect(handle.remove).toHaveBeenCalledOnce();
  });
});
