import { defineConfig } from "@playwright/test";
import { args, executablePath } from "./browser.mjs";

const inTime = /(listen|hearing)\.spec\.mjs$/;

export default defineConfig({
  testDir: "tests",
  globalSetup: "./server.mjs",
  timeout: 120_000, // a walk through a page of many pictures is long on a busy machine
  workers: 2,
  retries: 1, // a machine that stumbles once is no fault; a test that needed it is listed as flaky
  // What plays and listens does it in real time, and two takes at once starve each other: they come last, one after the other.
  projects: [
    { name: "pages", testIgnore: inTime, fullyParallel: true },
    { name: "sound", testMatch: inTime, fullyParallel: false, workers: 1, retries: 2 },
  ],
  reporter: [["list"]],
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: { executablePath, args },
  },
});
