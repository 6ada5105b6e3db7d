import locales from "@react-aria/optimize-locales-plugin";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// What every place needs, in one file: it is loaded once, and packs better than apart.
const KIT =
  /node_modules.(react|react-dom|scheduler|react-router|@tanstack.query-core|@tanstack.react-query|openapi-fetch|clsx|cookie|set-cookie-parser)[\\/]/;

// What every form needs, wherever it stands: in one file too, for the same reason.
const FORMS = /src.(api|model|form|entry)[\\/](?!measure|press|used|typing|PictureInput)/;

// While developing, `npx vite` serves the app and passes the API on to a Weft that runs on its usual port.
export default defineConfig({
  // Widgets speak the language of the pages; their words in thirty others stay out.
  plugins: [{ ...locales.vite({ locales: ["en-US"] }), enforce: "pre" }, react(), tailwindcss()],
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
  build: {
    chunkSizeWarningLimit: 900,
    // scripts/budget.mjs reads from it what the Desk loads first.
    manifest: true,
    target: "es2023",
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: "kit", test: KIT },
            { name: "forms", test: FORMS },
          ],
        },
      },
    },
  },
});
