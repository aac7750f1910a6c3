/**
 * The targets that cover an address, as `targetText` would write them: every name that it lies under, and every prefix of
 * its path. So the enrolments over an address are found without looking at all others.
 * @param url a whole address
 */
export function targetsOver(url: URL): string[] {
  const labels = url.hostname.split('.');
  const names = labels.map((_, at) => labels.slice(at).join('.'));
  const folders = url.pathname.split('/').slice(1, -1);
  const prefixes = ['/', ...folders.map((_, at) => `/${folders.slice(0, at + 1).join('/')}/`)];
  return [...names, ...prefixes.map((path) => url.origin + path)];
}
