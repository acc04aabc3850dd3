import { defineConfig } from "@playwright/test";

const port = process.env.E2E_PORT ?? "8120";
const emptyPort = process.env.E2E_EMPTY_PORT ?? "8121";
const binary = process.env.CAVESSON ?? "../target/debug/cavesson";

const server = (at, database, demo) => ({
  command: `${binary} serve --listen 127.0.0.1:${at} --site ../web/dist ${demo}`,
  url: `http://127.0.0.1:${at}/api/setup`,
  env: { ...process.env, DATABASE_URL: database ?? "", RUST_LOG: "error" },
  reuseExistingServer: false,
});

export default defineConfig({
  testDir: "tests",
  workers: 1,
  fullyParallel: false,
  timeout: 60_000,
  // On a machine that others load too, a test may be tried once more; one that needed it is told as flaky.
  retries: process.env.CI ? 1 : 0,
  expect: { timeout: 8_000 },
  reporter: [["list"]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    reducedMotion: "reduce",
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  webServer: [
    server(port, process.env.E2E_DATABASE, "--demo"),
    server(emptyPort, process.env.E2E_EMPTY_DATABASE, ""),
  ],
});
