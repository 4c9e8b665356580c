/// <reference types="vitest/config" />
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  base: "/",
  server: { proxy: { "/api": process.env.SHELF_SERVER ?? "http://127.0.0.1:8118" } },
  build: { outDir: "dist", assetsDir: "assets", assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  test: { environment: "jsdom", include: ["tests/**/*.test.{ts,tsx}"] },
});
