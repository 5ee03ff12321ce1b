import { svelte } from "@sveltejs/vite-plugin-svelte";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vitest/config";

const target = process.env.AMBER_API ?? "http://127.0.0.1:8460";

export default defineConfig({
  plugins: [tailwindcss(), svelte()],
  // nothing inlined: the content security policy allows no data: fonts
  build: { target: "es2022", sourcemap: false, assetsInlineLimit: 0 },
  resolve: process.env.VITEST ? { conditions: ["browser"] } : {},
  // changeOrigin off: with it the server's CSRF check sees a foreign origin
  server: {
    proxy: {
      "/api": { target, changeOrigin: false },
      "/static": { target, changeOrigin: false },
    },
  },
  // a thread to each file costs a third less than a process to each
  test: { include: ["src/**/*.test.ts"], environment: "node", pool: "threads" },
});
