import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    target: "es2022",
    chunkSizeWarningLimit: 900,
    rollupOptions: {
      input: { index: "index.html", parts: "src/playback/parts.ts" },
      preserveEntrySignatures: "exports-only",
      output: {
        entryFileNames: (chunk) =>
          chunk.name === "parts" ? "assets/parts.js" : "assets/[name]-[hash].js",
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8747" } },
});
