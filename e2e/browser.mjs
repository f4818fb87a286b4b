// Debian's Chromium without a window; nothing is downloaded, and the background chatter that it
// would send out is off.
export const executablePath = "/usr/bin/chromium-headless-shell";
export const args = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"];
