import { createRouter } from "sv-router";

import Floor from "./floor/Floor.svelte";
import Missing from "./Missing.svelte";

/** Addresses from before a job had pieces of work lead to its first one, which has the job's own id. */
const moved = () => import("./job/Moved.svelte");

/** What waits comes back from the disk before the bench looks for it. */
const bench = async () => {
  await (await import("./bench/on-disk")).bringBack();
  return import("./bench/BenchPage.svelte");
};

export const { navigate, isActive, route } = createRouter({
  "/": Floor,
  "/vehicles": () => import("./vehicles/Vehicles.svelte"),
  "/vehicles/:id": () => import("./vehicles/VehiclePage.svelte"),
  "/jobs/new": () => import("./job/NewJobPage.svelte"),
  "/jobs/import": () => import("./sheet/Import.svelte"),
  "/jobs/:id": () => import("./job/JobPage.svelte"),
  "/jobs/:id/work/:work": () => import("./job/JobPage.svelte"),
  "/jobs/:id/work/:work/typed-in": () => import("./job/TypeIn.svelte"),
  "/jobs/:id/work/:work/gear-set": () => import("./job/GearSet.svelte"),
  "/jobs/:id/work/:work/bench": bench,
  "/jobs/:id/work/:work/ratios": () => import("./ratio/RatioPage.svelte"),
  "/jobs/:id/work/:work/driveline": () => import("./driveline/DrivelinePage.svelte"),
  "/jobs/:id/work/:work/noise": () => import("./noise/NoisePage.svelte"),
  "/jobs/:id/work/:work/diff-bench": () => import("./diff/DiffBenchPage.svelte"),
  "/jobs/:id/work/:work/parts": () => import("./parts/PartsPage.svelte"),
  "/jobs/:id/work/:work/sheet": () => import("./sheet/SheetPage.svelte"),
  "/jobs/:id/hand-over": () => import("./handover/HandOverPage.svelte"),
  "/jobs/:id/gear-set": moved,
  "/jobs/:id/bench": moved,
  "/jobs/:id/ratios": moved,
  "/jobs/:id/driveline": moved,
  "/jobs/:id/noise": moved,
  "/jobs/:id/sheet": moved,
  "/diff-bench": () => import("./diff/DiffBenchPage.svelte"),
  "/kinds": () => import("./library/LibraryPage.svelte"),
  "/stores": () => import("./stores/Stores.svelte"),
  "/keys": () => import("./help/KeysPage.svelte"),
  "/glossary": () => import("./help/GlossaryPage.svelte"),
  "/you": () => import("./account/You.svelte"),
  "/people": () => import("./account/PeoplePage.svelte"),
  "*": Missing,
});
