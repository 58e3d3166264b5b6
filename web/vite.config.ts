import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // Nothing is inlined: what comes as data: is no part of 'self', and the page's own policy refuses it.
  build: { chunkSizeWarningLimit: 700, assetsInlineLimit: 0 },
});
