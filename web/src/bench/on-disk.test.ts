// @vitest-environment jsdom
import "fake-indexeddb/auto";

import { beforeEach, describe, expect, it, vi } from "vitest";

import { bringBack, onDisk } from "./on-disk";

const KEY = "amber.readings.w1";
const row = (id: string) => ({ client_id: id, typed: id });
const list = () =>
  (JSON.parse(localStorage.getItem(KEY) ?? "[]") as { client_id: string }[]).map((one) => one.client_id);
const written = () => onDisk.settled();

describe("what waits lies on the disk", () => {
  beforeEach(async () => {
    localStorage.clear();
    onDisk.removeItem(KEY);
    await written();
  });

  it("comes back when localStorage had not reached the disk", async () => {
    onDisk.setItem(KEY, JSON.stringify([row("a"), row("b")]));
    await written();
    localStorage.clear();
    await bringBack();
    expect(list()).toEqual(["a", "b"]);
  });

  it("adds only what is not there, after what is", async () => {
    onDisk.setItem(KEY, JSON.stringify([row("a"), row("b"), row("c")]));
    await written();
    localStorage.setItem(KEY, JSON.stringify([row("a"), row("b")]));
    await bringBack();
    expect(list()).toEqual(["a", "b", "c"]);
    await bringBack();
    expect(list()).toEqual(["a", "b", "c"]);
  });

  it("keeps what was lost when something new is written before it is back", async () => {
    onDisk.setItem(KEY, JSON.stringify([row("a"), row("b")]));
    await written();
    localStorage.clear();
    const back = bringBack();
    onDisk.setItem(KEY, JSON.stringify([row("new")]));
    await back;
    await written();
    localStorage.clear();
    await bringBack();
    expect(list()).toEqual(["new", "a", "b"]);
  });

  it("leaves alone what a release before kept in localStorage only", async () => {
    localStorage.setItem(KEY, JSON.stringify([row("old")]));
    await bringBack();
    expect(list()).toEqual(["old"]);
  });

  it("is tried again when the disk is not to be had at once", async () => {
    vi.resetModules();
    const fresh = await import("./on-disk");
    const open = vi.spyOn(indexedDB, "open").mockImplementationOnce(() => {
      throw new DOMException("in use", "UnknownError");
    });
    fresh.onDisk.setItem(KEY, JSON.stringify([row("a")]));
    await fresh.onDisk.settled();
    expect(open).toHaveBeenCalledTimes(2);
    localStorage.clear();
    await bringBack();
    expect(list()).toEqual(["a"]);
  });

  it("forgets what was sent", async () => {
    onDisk.setItem(KEY, JSON.stringify([row("a")]));
    onDisk.removeItem(KEY);
    await written();
    await bringBack();
    expect(list()).toEqual([]);
  });

  it("knows a reading that was set aside by the id in it", async () => {
    const aside = "amber.aside.w1";
    onDisk.setItem(aside, JSON.stringify([{ waiting: row("a"), text: "no" }]));
    await written();
    await bringBack();
    expect(JSON.parse(localStorage.getItem(aside) ?? "[]")).toHaveLength(1);
  });
});
