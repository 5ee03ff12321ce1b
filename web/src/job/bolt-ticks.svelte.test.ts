// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from "@testing-library/svelte";
import { afterEach, describe, expect, it, vi } from "vitest";

import BoltTicks from "./BoltTicks.svelte";

afterEach(cleanup);

const fastener = (count: number, sides = 1) => ({
  count,
  sides,
  order: Array.from({ length: count }, (_, index) => index + 1),
  layout: "circle" as const,
  left_hand: false,
  one_time_use: false,
});

describe("ticking bolts", () => {
  it("counts what is ticked and says that number, not the number of bolts", async () => {
    const onall = vi.fn();
    render(BoltTicks, { fastener: fastener(10), next: true, busy: false, onall });
    for (const bolt of [1, 4, 10])
      await fireEvent.click(screen.getByRole("checkbox", { name: `Bolt ${bolt}` }));
    await fireEvent.click(screen.getByRole("checkbox", { name: "Bolt 4" }));
    expect(screen.getByText(/Tick each of 10 bolts/).textContent).toContain("2 done");
    await fireEvent.click(screen.getByRole("button", { name: "Confirm" }));
    expect(onall).toHaveBeenCalledExactlyOnceWith(2);
  });
  it("has each side of an axle for itself and counts both", async () => {
    const onall = vi.fn();
    render(BoltTicks, { fastener: fastener(4, 2), next: true, busy: false, onall });
    await fireEvent.click(screen.getByRole("checkbox", { name: "Left bolt 1" }));
    await fireEvent.click(screen.getByRole("checkbox", { name: "Right bolt 1" }));
    expect(screen.getByText(/Tick each of 8 bolts/).textContent).toContain("2 done");
    await fireEvent.click(screen.getByRole("button", { name: "Confirm" }));
    expect(onall).toHaveBeenCalledExactlyOnceWith(2);
  });
  it("offers twelve where nobody knows how many there are", () => {
    render(BoltTicks, { fastener: null, next: false, busy: true, onall: vi.fn() });
    expect(screen.getAllByRole("checkbox").length).toBe(12);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Confirm" }).disabled).toBe(true);
  });
});
