/// <reference types="vitest/config" />
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  base: "/",
  server: { proxy: { "/api": process.env.SHELF_SERVER ?? "http://127.0.0.1:8118" } },
  build: { outDir: "dist", assetsDir: "assets", assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  // On a machine that does much else at once a test may take long; how fast things are is for the benchmark.
  // Files share what is loaded once; each cleans up what it has drawn.
  test: { testTimeout: 60_000, environment: "jsdom", isolate: false, include: ["tests/**/*.test.{ts,tsx}"] },
});
