import react from "@vitejs/plugin-react";
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { defineConfig, type Plugin } from "vite";

/** Writes the device's helper with the names of all that was built, so that the application opens with no network. */
function offline(): Plugin {
  return {
    name: "offline",
    apply: "build",
    generateBundle(_, bundle) {
      const files = Object.keys(bundle)
        .filter((name) => !name.endsWith(".map") && !/cyrillic|greek|vietnamese|latin-ext/.test(name))
        .map((name) => `/${name}`);
      const list = [
        "/index.html",
        "/mark.svg",
        "/manifest.webmanifest",
        ...files.filter((f) => f !== "/index.html"),
      ].sort();
      const source = readFileSync("src/offline/worker.js", "utf8");
      const version = createHash("sha256")
        .update(JSON.stringify(list))
        .update(source)
        .digest("hex")
        .slice(0, 12);
      this.emitFile({
        type: "asset",
        fileName: "worker.js",
        source: source
          .replace("__FILES__", JSON.stringify(list))
          .replace("__VERSION__", JSON.stringify(version)),
      });
    },
  };
}

export default defineConfig({
  plugins: [react(), offline()],
  build: {
    target: "es2022",
    assetsInlineLimit: 0,
    // What the first page needs comes in one piece: each piece costs a slow phone a moment, and the last one counts.
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: "first", tags: ["$initial"] }] } } },
  },
  server: { proxy: { "/api": process.env.CAVESSON_API ?? "http://127.0.0.1:8020" } },
});
