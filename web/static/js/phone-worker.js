// Keeps a student's page without a net: the page and its week, its sounds, the judge of taps. What has changed comes from the net
// where there is one; what is kept comes where there is none, or where it takes too long.
importScripts("/static/vendor/workbox.min.js");
const { registerRoute, NetworkFirst, CacheFirst, CacheableResponsePlugin } = workbox;

// A link that has ended leaves nothing behind.
const ended = {
  async fetchDidSucceed({ request, response }) {
    if (response.status === 404) await Promise.all(["page", "week"].map(async (name) => (await caches.open(name)).delete(request)));
    return response;
  },
};
const whole = new CacheableResponsePlugin({ statuses: [200] });
const page = new NetworkFirst({ cacheName: "page", networkTimeoutSeconds: 3, plugins: [ended, whole], matchOptions: { ignoreVary: true } });
const week = new NetworkFirst({ cacheName: "week", networkTimeoutSeconds: 3, plugins: [ended, whole], matchOptions: { ignoreVary: true } });
const tones = new CacheFirst({ cacheName: "tones", plugins: [whole], matchOptions: { ignoreVary: true } });
const shell = new NetworkFirst({ cacheName: "shell", networkTimeoutSeconds: 3, plugins: [whole], matchOptions: { ignoreVary: true } });

const ways = [
  [/^\/p\/[^/]+\/tones$/, tones],
  [/^\/p\/[^/]+\/(score|drill)\//, week],
  [/^\/static\//, shell],
  [/^\/p\/[^/.]+$/, page],
];
const wayOf = (url) => ways.find(([path]) => path.test(new URL(url).pathname))?.[1];
for (const [path, way] of ways) registerRoute(({ url, request, sameOrigin }) => sameOrigin && request.method === "GET" && path.test(url.pathname), way);

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

// The page says what it will need; the first visit came before there was anybody to keep it.
self.addEventListener("message", (event) => {
  const list = event.data?.keep;
  if (!list) return;
  event.waitUntil((async () => {
    for (const url of list) {
      const way = wayOf(url);
      if (!way) continue;
      const request = new Request(url);
      if (way === tones && await caches.match(request, { ignoreVary: true })) continue;
      await way.handle({ event, request }).catch(() => null); // it is asked for again the next time
    }
    event.source?.postMessage({ kept: list.length });
  })());
});
