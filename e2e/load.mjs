// How many pages a second the program answers under 64 connections, for a school
// of three years, beside a fixed small answer in the same run: what counts is how
// far a page stands from it, whatever the machine. The numbers that were last
// looked at are in docs/performance.md.
import autocannon from "autocannon";
import { startServer } from "./server.mjs";

const connections = 64;
const seconds = Number(process.env.LOAD_SECONDS || 6);

const server = await startServer("--grown");
try {
  const jar = new Map();
  const ask = async (path, options = {}) => {
    const answer = await fetch(server.address + path, { redirect: "manual", ...options, headers: { Cookie: Array.from(jar, (c) => c.join("=")).join("; ") } });
    for (const line of answer.headers.getSetCookie()) jar.set(...line.split(";")[0].split(/=(.*)/s, 2));
    return answer;
  };
  const token = (await (await ask("/signin")).text()).match(/name="_csrf" value="([^"]+)"/)[1];
  await ask("/signin", { method: "POST", body: new URLSearchParams({ _csrf: token, email: server.email, password: server.password }) });
  const Cookie = Array.from(jar, (c) => c.join("=")).join("; ");

  const pages = { "fixed small answer": "/static/icon.svg", desk: "/", song: "/songs/1", "song with a pattern": "/songs/1?pattern=thumb-two-between", patterns: "/patterns", ladder: "/ladders/101", sheet: "/ladders/101/sheet", keys: "/songs/1/keys", songs: "/songs", ladders: "/ladders" };
  const rate = async (path, headers) => {
    const result = await autocannon({ url: server.address + path, connections, duration: seconds, headers });
    if (result.errors || result.non2xx > result["3xx"]) throw new Error(`${path}: ${result.errors} errors, ${result.non2xx} refused`);
    return result.requests.average;
  };
  let fixed = 0;
  console.log("page                     a second   of the fixed answer   unchanged a second");
  for (const [name, path] of Object.entries(pages)) {
    const first = await ask(path);
    await first.arrayBuffer();
    if (!first.ok) throw new Error(`${path}: ${first.status}`);
    const sent = await rate(path, { Cookie });
    fixed ||= sent;
    const tag = first.headers.get("etag");
    const unchanged = tag ? (await rate(path, { Cookie, "If-None-Match": tag })).toFixed(0) : "";
    console.log(name.padEnd(22), sent.toFixed(0).padStart(10), `${(100 * sent / fixed).toFixed(1)} %`.padStart(20), unchanged.padStart(20));
  }
} finally {
  await server.stop();
}
