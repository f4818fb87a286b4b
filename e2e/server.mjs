// Starts the built program with the demo school, its own database and free
// ports, and stops it afterwards. Used by the tests and by the screenshots.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const startSeconds = 240; // on a machine that has other things to do

export async function startServer(...flags) {
  const data = mkdtempSync(join(tmpdir(), "arplin-e2e-"));
  const env = { ...process.env, ARPLIN_DSN: "", ARPLIN_DATA: data, ARPLIN_LISTEN: "127.0.0.1:0" };
  const program = spawn(join(import.meta.dirname, "../bin/arplin"), ["demo", ...flags], { env, stdio: ["ignore", "pipe", "pipe"] });
  let out = "";
  let log = "";
  program.stderr.on("data", (chunk) => { log += chunk; });
  const address = await new Promise((resolve, reject) => {
    const timer = setTimeout(() => {
      program.kill("SIGTERM"); // with its database
      reject(new Error(`the program did not start in ${startSeconds} s: ${log}`));
    }, startSeconds * 1000);
    program.stdout.on("data", (chunk) => {
      out += chunk;
      const found = out.match(/Password/) && out.match(/http:\/\/[\d.]+:\d+/);
      if (found) { clearTimeout(timer); resolve(found[0]); }
    });
    program.on("exit", (code) => reject(new Error(`the program ended with ${code}: ${log}`)));
  });
  program.removeAllListeners("exit");
  const stop = async () => {
    const died = program.exitCode !== null || program.signalCode !== null;
    if (!died) {
      const ended = new Promise((resolve) => program.on("exit", resolve));
      program.kill("SIGTERM");
      await ended;
    }
    rmSync(data, { recursive: true, force: true, maxRetries: 20, retryDelay: 200 });
    // A program that was gone before the end is a failure, whatever the tests said.
    if (died) throw new Error(`the program ended by itself: ${log}`);
  };
  return { address, stop, email: out.match(/\S+@\S+/)[0], password: out.match(/Password\s+(\S+)/)[1] };
}

// Each test takes the next of these schools, so that none sees another's data.
const schools = 120;

export default async function globalSetup() {
  const server = await startServer("--copies", String(schools));
  const taken = mkdtempSync(join(tmpdir(), "arplin-e2e-taken-"));
  process.env.ARPLIN_E2E = JSON.stringify({ address: server.address, email: server.email, password: server.password, taken });
  return async () => {
    rmSync(taken, { recursive: true, force: true });
    await server.stop();
  };
}
