// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/svelte";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { stubServer, type Sent } from "../test/stub-server";

const VAN = { id: "v1", name: "Library van", owner: "Island Library", layout: "four_wheel_drive" };
const AXLES = [
  { place: "front_axle", label: "Front axle", sheet: "axle" },
  { place: "rear_axle", label: "Rear axle", sheet: "axle" },
];
const KINDS = {
  kinds: [
    {
      code: "ring_and_pinion",
      title: "Ring and pinion",
      about: "",
      places: ["front_axle", "rear_axle"],
      bench: true,
    },
    { code: "speedometer", title: "Speedometer correction", about: "", places: ["vehicle"], bench: false },
  ],
  places: {
    rear_drive: [{ place: "vehicle", label: "Whole vehicle", sheet: "" }, AXLES[1]],
    four_wheel_drive: [{ place: "vehicle", label: "Whole vehicle", sheet: "" }, ...AXLES],
  },
  pointed_at: ["speedometer"],
};
let sent: Sent[] = [];
let answers: (() => Response)[] = [];
stubServer((one) => {
  sent.push(one);
  if (one.path.endsWith("/families"))
    return Response.json([
      {
        code: "corrie-ls19",
        name: "Corrie",
        build: "Light rear axle",
        part: "axle",
        limits: [],
        ratios: [],
        shims: [],
      },
    ]);
  if (one.path.endsWith("/kinds")) return Response.json(KINDS);
  if (one.path.endsWith("/vehicles")) return Response.json({ vehicles: [VAN], page: 1, more: false });
  if (one.path.endsWith("/vehicles/v1")) return Response.json(VAN);
  return answers.shift()?.() ?? Response.json({ id: one.body["id"] }, { status: 201 });
});
const went = vi.hoisted(() => vi.fn());
vi.mock("../routes", () => ({ navigate: went }));
vi.mock("../stores/FamilySheet.svelte", async () => ({
  default: (await import("../lib/Notice.svelte")).default,
}));
const NewJob = (await import("./NewJob.svelte")).default;
const field = (label: string) => screen.getByLabelText<HTMLInputElement>((said) => said.startsWith(label));
const submit = () => fireEvent.submit(document.querySelector("form") as HTMLFormElement);
const made = () => sent.filter((one) => one.path.endsWith("/jobs"));

describe("a new job", () => {
  beforeEach(() => {
    sent = [];
    answers = [];
    went.mockClear();
    history.replaceState(null, "", "/jobs/new");
  });
  afterEach(cleanup);

  async function type(label: string, text: string) {
    await fireEvent.input(field(label), { target: { value: text } });
  }
  async function fill() {
    await waitFor(() => expect(screen.getAllByRole("option", { name: /Corrie/ }).length).toBe(1));
    await type("Complaint", "Hums");
    await fireEvent.change(field("Axle family (from the Stores)"), { target: { value: "corrie-ls19" } });
  }

  it("offers a vehicle that was here before, and takes its owner and layout along", async () => {
    render(NewJob);
    await fill();
    await type("Vehicle", "libr");
    await fireEvent.click(await screen.findByRole("button", { name: /Library van, Island Library/ }));
    expect([field("Customer").value, field("Vehicle").value]).toEqual(["Island Library", "Library van"]);
    expect(field("Layout").disabled).toBe(true);
    await submit();
    await waitFor(() => expect(went).toHaveBeenCalled());
    expect(made()[0]?.body).toMatchObject({
      vehicle_id: "v1",
      layout: "four_wheel_drive",
      customer: "Island Library",
    });
  });
  it("forgets the known vehicle when another name is typed", async () => {
    history.replaceState(null, "", "/jobs/new?vehicle=v1");
    render(NewJob);
    await waitFor(() => expect(field("Vehicle").value).toBe("Library van"));
    await fill();
    await type("Vehicle", "Post van");
    await submit();
    await waitFor(() => expect(made().length).toBe(1));
    expect(made()[0]?.body).toMatchObject({ vehicle_id: null, vehicle: "Post van" });
  });
  it("books several pieces of work, each on a part that this vehicle has", async () => {
    render(NewJob);
    await fill();
    await type("Vehicle", "Post van");
    expect(
      screen.getAllByRole("option", { name: /^(Front|Rear) axle$/ }).map((one) => one.textContent),
    ).toEqual(["Rear axle"]);
    await fireEvent.click(screen.getByRole("button", { name: "Add another piece of work" }));
    await submit();
    await waitFor(() => expect(made().length).toBe(1));
    expect(made()[0]?.body).toMatchObject({
      kind: "ring_and_pinion",
      place: "rear_axle",
      family: "corrie-ls19",
      more: [{ kind: "speedometer", place: "vehicle", family: "" }],
    });
  });
  it("asks about an odometer that runs backwards, and books it when told so", async () => {
    const error = { code: "odometer_backwards", message: "The odometer was more before.", field: "odometer" };
    answers = [() => Response.json({ error }, { status: 422 })];
    render(NewJob);
    await fill();
    await type("Vehicle", "Post van");
    await type("Odometer", "8420");
    await submit();
    await fireEvent.click(await screen.findByRole("button", { name: "Save it with this odometer" }));
    await submit();
    await waitFor(() => expect(went).toHaveBeenCalled());
    expect(made().map((one) => one.body["sure"])).toEqual([false, true]);
  });
  it("asks again with the same id after a lost answer, and with another one once something was changed", async () => {
    answers = [() => new Response("", { status: 503 }), () => new Response("", { status: 503 })];
    render(NewJob);
    await fill();
    await type("Vehicle", "Post van");
    for (const count of [1, 2]) {
      await submit();
      await waitFor(() => expect(made().length).toBe(count));
      await screen.findByText(/connection is lost/);
    }
    await type("Complaint", "Howls");
    await submit();
    await waitFor(() => expect(went).toHaveBeenCalled());
    const ids = made().map((one) => one.body["client_id"]);
    expect([ids[0] === ids[1], ids[1] === ids[2], made()[2]?.body["id"] === ids[2]]).toEqual([
      true,
      false,
      true,
    ]);
  });
});
