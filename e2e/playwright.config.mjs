import { defineConfig } from "@playwright/test";

const inTime = /(listen|hearing)\.spec\.mjs$/;

// Debian's Chromium; nothing is downloaded, and the background chatter that it
// would send out is off.
export default defineConfig({
  testDir: "tests",
  globalSetup: "./server.mjs",
  timeout: 120_000, // a walk through a page of many pictures is long on a busy machine
  workers: 2,
  retries: 1, // a machine that stumbles once is no fault; a test that needed it is listed as flaky
  // What plays and listens does it in real time, and two takes at once starve each other: they come last, one after the other.
  projects: [
    { name: "pages", testIgnore: inTime, fullyParallel: true },
    { name: "sound", testMatch: inTime, fullyParallel: false, retries: 2 },
  ],
  reporter: [["list"]],
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
    },
  },
});
