import { beforeEach, describe, expect, it } from "vitest";

import type { Me } from "../api/client";
import { setWriter } from "../lib/envelope";
import { Outbox, type Keeper } from "./outbox";

class Drawer implements Keeper {
  kept = new Map<string, string>();
  getItem = (key: string) => this.kept.get(key) ?? null;
  setItem = (key: string, value: string) => void this.kept.set(key, value);
  removeItem = (key: string) => void this.kept.delete(key);
  settled = () => Promise.resolve();
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
  it("are another write when an answer changes what they mean", () => {
    const outbox = new Outbox("job", drawer);
    const before = outbox.add(reading);
    outbox.change(before.client_id, "0.21 mm", true);
    const [after] = outbox.all();
    expect(after).toMatchObject({ ...reading, typed: "0.21 mm", sure: true });
    expect(after?.client_id).not.toBe(before.client_id);
  });
  it("stay their writer's, in the unit they were typed in, whoever signs in next", () => {
    setWriter({ username: "isla", length_unit: "hundredths_mm", torque_unit: "nm" } as Me);
    new Outbox("job", drawer).add({ ...reading, typed: "8" });
    setWriter({ username: "tam", length_unit: "thou", torque_unit: "nm" } as Me);
    expect(new Outbox("job", drawer).all()[0]).toMatchObject({
      typed: "8",
      person: "isla",
      length_unit: "hundredths_mm",
    });
  });
  it("that can never be taken lie aside with their sentence until somebody deals with them", () => {
    const outbox = new Outbox("job", drawer);
    const bad = outbox.add(reading);
    const good = outbox.add({ ...reading, angle_deg: 90 });
    outbox.setAside(bad, "Backlash cannot be negative.");
    expect(outbox.all()).toEqual([good]);
    expect(new Outbox("job", drawer).aside()).toEqual([
      { waiting: bad, text: "Backlash cannot be negative." },
    ]);
    outbox.dropAside(bad.client_id);
    expect(outbox.aside()).toEqual([]);
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
