import { createRouter } from "sv-router";

import Floor from "./floor/Floor.svelte";
import Missing from "./Missing.svelte";

export const { navigate, isActive, route } = createRouter({
  "/": Floor,
  "/jobs/new": () => import("./job/NewJob.svelte"),
  "/jobs/import": () => import("./sheet/Import.svelte"),
  "/jobs/:id": () => import("./job/JobPage.svelte"),
  "/jobs/:id/gear-set": () => import("./job/GearSet.svelte"),
  "/jobs/:id/bench": () => import("./bench/BenchPage.svelte"),
  "/jobs/:id/ratios": () => import("./ratio/RatioPage.svelte"),
  "/jobs/:id/driveline": () => import("./driveline/DrivelinePage.svelte"),
  "/jobs/:id/noise": () => import("./noise/NoisePage.svelte"),
  "/jobs/:id/sheet": () => import("./sheet/SheetPage.svelte"),
  "/stores": () => import("./stores/Stores.svelte"),
  "/you": () => import("./account/You.svelte"),
  "*": Missing,
});
