/** For which build of the console this window was last loaded again by itself; kept through the loading. */
const KEPT_AS = 'yardbadge-reloaded';
/** The name of this part says what is in it, so that it is another after an upgrade. */
const BUILD = import.meta.url;

let isUnderWay = false;

/** Whether the page is just being loaded again. */
export function isReloading(): boolean {
  return isUnderWay;
}

/**
 * Loads the page again where a part of it is missing, once for each build: after an upgrade its parts have other names. Vite tells of it
 * by an event (https://vite.dev/guide/build#load-error-handling).
 */
export function reloadWhenStale(): void {
  window.addEventListener('vite:preloadError', () => {
    if (isUnderWay || sessionStorage.getItem(KEPT_AS) === BUILD) return;
    sessionStorage.setItem(KEPT_AS, BUILD);
    isUnderWay = true;
    location.reload();
  });
}
