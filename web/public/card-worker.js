// Lets a card that was opened once open again without a network. Only the page and its files: what is noted is kept by the page.
const PAGE = 'odd-swap-card-1';
self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
self.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== 'GET' || url.origin !== self.location.origin) return;
  if (event.request.mode === 'navigate' && url.pathname === '/card') {
    event.respondWith(
      fetch(event.request)
        .then(async (answer) => {
          if (answer.ok) await (await caches.open(PAGE)).put('/card', answer.clone());
          return answer;
        })
        .catch(async () => (await caches.match('/card')) ?? Response.error()),
    );
  } else if (url.pathname.startsWith('/assets/') || url.pathname === '/icon.svg') {
    event.respondWith(caches.match(url.pathname).then((held) => held ?? fetch(event.request)));
  }
});
