import { defineConfig } from "@playwright/test";
import { demoPorts, emptyPorts } from "./ports.mjs";

const port = demoPorts[Number(process.env.TEST_PARALLEL_INDEX ?? 0)];
const binary = process.env.CAVESSON ?? "../target/debug/cavesson";

const server = (at, database, demo) => ({
  command: `${binary} serve --listen 127.0.0.1:${at} --site ../web/dist ${demo}`,
  url: `http://127.0.0.1:${at}/api/setup`,
  env: {
    ...process.env,
    DATABASE_URL: `${process.env.E2E_DATABASES}${database}`,
    RUST_LOG: "error",
  },
  reuseExistingServer: false,
});

export default defineConfig({
  testDir: "tests",
  workers: demoPorts.length,
  fullyParallel: false,
  projects: [
    { name: "together", testIgnore: /sixty/ },
    { name: "alone", testMatch: /sixty/, dependencies: ["together"] },
  ],
  // Long enough for a machine that others load too: what is well does not wait.
  timeout: 180_000,
  // There, a test may be tried once more; one that needed it is told as flaky.
  retries: process.env.CI ? 1 : 0,
  expect: { timeout: 40_000 },
  reporter: [["list"]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    reducedMotion: "reduce",
    // The device's helper keeps every page's files anew for each test: let in where the network goes.
    serviceWorkers: "block",
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
    ...emptyPorts.map((at, n) => server(at, `empty_${n}`, "")),
    ...demoPorts.map((at, n) => server(at, `demo_${n}`, "--demo")),
  ],
});
