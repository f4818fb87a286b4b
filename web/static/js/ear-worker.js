// Judges a take away from the page, by the program's own Go.
importScripts("/static/judge/wasm_exec.js");

const ready = (async () => {
  const go = new Go();
  const answer = await fetch("/static/judge/judge.wasm");
  if (!answer.ok) throw new Error(String(answer.status));
  const { instance } = await WebAssembly.instantiate(await answer.arrayBuffer(), go.importObject);
  go.run(instance);
})();

onmessage = async ({ data }) => {
  try {
    await ready;
    postMessage(JSON.parse((data.room ? arplinRoom : arplinListen)(data.ask, data.samples)));
  } catch {
    postMessage({ problem: "The part that listens couldn’t be loaded. Try again in a moment." });
  }
};
