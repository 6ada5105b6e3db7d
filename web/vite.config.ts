import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// While developing, `npx vite` serves the app and passes the API on to a Weft that runs on its usual port.
export default defineConfig({
  plugins: [react(), tailwindcss()],
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
  build: { chunkSizeWarningLimit: 900 },
});
