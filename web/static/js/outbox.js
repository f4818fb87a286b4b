// What was played waits on the phone until the teacher has it: each entry with an id of its own, so that
// one that is sent twice, or from two tabs, arrives once.
let opened = null;
const base = () => (opened ||= idb.openDB("arplin", 1, {
  upgrade(db) {
    db.createObjectStore("waiting", { keyPath: "id" });
    db.createObjectStore("sent", { keyPath: "id" });
  },
}));

// A browser that keeps nothing (a private window, a full disk) has it in memory while the page is open.
const memory = { waiting: new Map(), sent: new Map() };
let keeps = true;
async function inStore(name, does, instead) {
  if (keeps) {
    try {
      return await does(await base());
    } catch {
      keeps = false;
    }
  }
  return instead(memory[name]);
}
const put = (name, entry) => inStore(name, (db) => db.put(name, entry), (map) => map.set(entry.id, entry));
const drop = (name, id) => inStore(name, (db) => db.delete(name, id), (map) => map.delete(id));
const list = (name) => inStore(name, (db) => db.getAll(name), (map) => [...map.values()]);

const week = 8 * 24 * 60 * 60 * 1000;
const most = 100; // in one go

export const outbox = {
  get keeps() { return keeps; },
  add: (entry) => put("waiting", entry),
  // takeBack removes what has not been sent; false for what has.
  async takeBack(id) {
    const there = (await list("waiting")).some((entry) => entry.id === id);
    if (there) await drop("waiting", id);
    return there;
  },
  // read lists what waits and what was sent of a link, and forgets what was sent long ago.
  async read(link) {
    const sent = await list("sent");
    await Promise.all(sent.filter((entry) => Date.now() - entry.at > week).map((entry) => drop("sent", entry.id)));
    const own = (entries) => entries.filter((entry) => entry.link === link).sort((a, b) => a.at - b.at);
    return { waiting: own(await list("waiting")), sent: own(sent) };
  },
  // send sends what waits, in order. It says "sent", "away" (try again later), or "ended" (the link opens
  // nothing any more); what was not kept stays, with the reason.
  async send(link) {
    const waiting = (await this.read(link)).waiting.filter((entry) => !entry.left);
    while (waiting.length) {
      const batch = waiting.splice(0, most);
      let answer;
      try {
        answer = await fetch(`${link}/log`, { method: "POST", keepalive: true, cache: "no-store", headers: { "Content-Type": "application/json", Accept: "application/json" }, body: JSON.stringify({ now: Date.now(), entries: batch }) });
      } catch {
        return "away";
      }
      if (answer.status === 404) return "ended";
      if (!answer.ok) return "away";
      const { kept, left = [] } = await answer.json();
      const byID = new Map(batch.map((entry) => [entry.id, entry]));
      for (const id of kept) {
        await put("sent", byID.get(id));
        await drop("waiting", id);
      }
      for (const { id, why } of left) if (byID.has(id)) await put("waiting", { ...byID.get(id), left: why });
    }
    return "sent";
  },
};
