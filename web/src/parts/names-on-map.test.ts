import { describe, expect, it } from "vitest";

import { namesOnMap } from "./names-on-map";

const MAP = { width: 1000, height: 500 };
const gear = { key: "ring", text: "Ring gear", x: 500, y: 250 };

describe("names on the map of the parts", () => {
  it("stand under their part where nothing is in the way", () => {
    expect(namesOnMap([gear], [gear], MAP)).toEqual([{ ...gear, y: 283, anchor: "middle" }]);
  });
  it("go elsewhere where another part stands", () => {
    const [name] = namesOnMap([gear], [gear, { x: 500, y: 290 }], MAP);
    expect(name?.y).toBeLessThan(gear.y);
  });
  it("never cover each other", () => {
    const beside = { key: "pinion", text: "Pinion", x: 530, y: 250 };
    const [first, second] = namesOnMap([gear, beside], [gear, beside], MAP);
    expect(first?.y).not.toBe(second?.y);
  });
  it("stay on the map", () => {
    const low = { ...gear, y: 490 };
    const [name] = namesOnMap([low], [low], MAP);
    expect(name?.y).toBeLessThan(low.y);
    const left = { ...gear, text: "Wheel nut, left", x: 20 };
    const [other] = namesOnMap([left], [left], MAP);
    expect(other?.anchor).toBe("start");
  });
  it("are left out where there is no room at all", () => {
    const crowd = [-40, -20, 0, 20, 40].flatMap((dx) =>
      [-60, -30, 0, 30, 60].map((dy) => ({ x: gear.x + dx, y: gear.y + dy })),
    );
    expect(namesOnMap([gear], crowd, MAP)).toEqual([]);
  });
});
