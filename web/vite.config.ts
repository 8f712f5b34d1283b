import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: {
    // Fonts as data: addresses would need a weaker content security policy.
    assetsInlineLimit: 0,
    target: "es2022",
    // One script of about 215 kB gzip; the goal is 300.
    chunkSizeWarningLimit: 800,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
  test: {
    environment: "jsdom",
    setupFiles: ["src/test/setup.ts"],
    restoreMocks: true,
    unstubGlobals: true,
    // One worker for all files: each start of a browser's stand-in costs more than the tests in it, and on a busy machine took so long that it was given up.
    pool: "threads",
    maxWorkers: 1,
    isolate: false,
    // A busy machine types slowly; a hanging test still ends.
    testTimeout: 30_000,
    // What styles.test.ts reads; elsewhere style sheets are nothing.
    css: { include: [/\?raw$/] },
  },
});
