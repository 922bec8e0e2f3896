import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  plugins: [react(), tailwindcss()],
  build: { target: "es2022", assetsInlineLimit: 0, chunkSizeWarningLimit: 600 },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
}));
