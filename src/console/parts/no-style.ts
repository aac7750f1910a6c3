/**
 * Stands in for a package that the dialogs lock the page's scrolling with by a style element of its own, which our content policy
 * refuses. What it would write stands in style.css; the dialogs still mark the body, and that is enough.
 */
export function styleSingleton(): () => null {
  return () => null;
}
