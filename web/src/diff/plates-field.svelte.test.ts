// @vitest-environment jsdom
import { cleanup, render, screen } from "@testing-library/svelte";
import { SHADOW_ITEM_MARKER_PROPERTY_NAME, TRIGGERS } from "svelte-dnd-action";
import { tick, type ComponentProps } from "svelte";
import { afterEach, describe, expect, it, vi } from "vitest";

import PlatesField from "./PlatesField.svelte";

afterEach(cleanup);

type Given = ComponentProps<typeof PlatesField>;
const option = (code: string) => ({ code, label: code });
const field = {
  name: "plates",
  label: "Plates",
  hint: "",
  columns: [
    { name: "kind", options: ["friction", "steel"].map(option) },
    { name: "keyed", options: ["gear", "case"].map(option) },
  ],
} as unknown as Given["field"];
const friction = { kind: "friction", keyed: "gear" };
const steel = { kind: "steel", keyed: "case" };

function pack() {
  const set = vi.fn();
  const on = { values: { plates: [friction, steel] }, set } as unknown as Given["on"];
  render(PlatesField, { on, field, bad: [] });
  const list = screen.getByRole("list", { name: "Plates" });
  const send = async (what: "consider" | "finalize", trigger: TRIGGERS, items: object[]) => {
    list.dispatchEvent(new CustomEvent(what, { detail: { items, info: { trigger } } }));
    await tick();
  };
  const shown = () =>
    screen.getAllByRole("listitem").map((one) => (/friction|steel/.exec(one.textContent) ?? [""])[0]);
  return { set, send, shown };
}

const first = { ...friction, id: "plates-0" };
const second = { ...steel, id: "plates-1" };
const moving = { ...first, [SHADOW_ITEM_MARKER_PROPERTY_NAME]: true };

describe("a pack that is put into order by dragging", () => {
  it("takes the order that it was left in", async () => {
    const { set, send, shown } = pack();
    await send("consider", TRIGGERS.DRAG_STARTED, [moving, second]);
    await send("consider", TRIGGERS.DRAGGED_OVER_INDEX, [second, moving]);
    expect(shown()).toEqual(["steel", "friction"]);
    await send("finalize", TRIGGERS.DROPPED_INTO_ZONE, [second, first]);
    expect(set).toHaveBeenCalledExactlyOnceWith("plates", [steel, friction]);
  });
  it("has the dragged plate once though it is told of twice", async () => {
    const { set, send, shown } = pack();
    await send("consider", TRIGGERS.DRAG_STARTED, [moving, second]);
    await send("consider", TRIGGERS.DRAGGED_OVER_INDEX, [first, second, moving]);
    expect(shown()).toHaveLength(2);
    await send("finalize", TRIGGERS.DROPPED_INTO_ZONE, [second, first, first]);
    expect(set).toHaveBeenCalledExactlyOnceWith("plates", [steel, friction]);
  });
  it("does not listen to what comes after the finger is up", async () => {
    const { set, send, shown } = pack();
    await send("consider", TRIGGERS.DRAG_STARTED, [moving, second]);
    await send("finalize", TRIGGERS.DROPPED_INTO_ZONE, [first, second]);
    await send("consider", TRIGGERS.DRAGGED_OVER_INDEX, [second, moving]);
    expect(shown()).toEqual(["friction", "steel"]);
    expect(set).toHaveBeenCalledTimes(1);
  });
});
