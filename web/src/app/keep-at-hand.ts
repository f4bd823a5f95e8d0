/** Keeps the pages and what they showed last in this browser, so that a reload finds them where the server does not answer. */
export function keepAtHand(): void {
  if (!('serviceWorker' in navigator)) return;
  // What was read before the worker stood is read again, through it.
  navigator.serviceWorker.addEventListener('controllerchange', () => {
    // The board is drawn without what a programme needs.
    if (location.pathname.startsWith('/programmes/'))
      void import('../model/programme-store.js').then((store) => store.useProgramme().reread());
  });
  const register = () => {
    // A browser that keeps nothing (a private window) works as ever, with the server.
    navigator.serviceWorker.register('/service-worker.js').catch(() => undefined);
  };
  if (document.readyState === 'complete') register();
  else window.addEventListener('load', register);
}
