import { beforeEach, describe, expect, it } from "vitest";

import { Outbox, type Keeper } from "./outbox";

class Drawer implements Keeper {
  kept = new Map<string, string>();
  getItem = (key: string) => this.kept.get(key) ?? null;
  setItem = (key: string, value: string) => void this.kept.set(key, value);
  removeItem = (key: string) => void this.kept.delete(key);
}

const reading = { trial_id: "t", angle_deg: 45, typed: "8 thou", sure: false };

describe("readings on their way", () => {
  let drawer: Drawer;
  beforeEach(() => {
    drawer = new Drawer();
  });

  it("outlive the page, in order, each with one id for good", () => {
    const first = new Outbox("job", drawer).add(reading);
    const second = new Outbox("job", drawer).add({ ...reading, angle_deg: 90 });
    const found = new Outbox("job", drawer).all();
    expect(found.map((one) => one.client_id)).toEqual([first.client_id, second.client_id]);
    expect(first.client_id).not.toBe(second.client_id);
  });
  it("keep their id when an answer changes what they mean", () => {
    const outbox = new Outbox("job", drawer);
    const { client_id } = outbox.add(reading);
    outbox.change(client_id, "0.21 mm", true);
    expect(outbox.all()).toEqual([{ ...reading, client_id, typed: "0.21 mm", sure: true }]);
  });
  it("leave nothing behind once they are taken", () => {
    const outbox = new Outbox("job", drawer);
    outbox.drop(outbox.add(reading).client_id);
    expect(drawer.kept.size).toBe(0);
  });
  it("of one job stay away from another's", () => {
    new Outbox("a", drawer).add(reading);
    expect(new Outbox("b", drawer).all()).toEqual([]);
  });
  it("start anew when something else stands in their place", () => {
    drawer.setItem("amber.readings.job", "{nonsense");
    expect(new Outbox("job", drawer).all()).toEqual([]);
    drawer.setItem("amber.readings.job", '"text"');
    expect(new Outbox("job", drawer).all()).toEqual([]);
  });
});
