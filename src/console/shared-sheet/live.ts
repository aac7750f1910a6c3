/** The page behind a shared link, live: it shows anew what has changed, and copies what is to be copied. Without it the page works too. */

function sheet(): HTMLElement | null {
  return document.querySelector<HTMLElement>('[data-events]');
}

/** A button behind everything that is to be copied as it is. */
function addButtons(): void {
  const shown = sheet();
  if (!shown) return;
  const { copy = '', copied = '' } = shown.dataset;
  for (const place of shown.querySelectorAll<HTMLElement>('pre, dd')) {
    const text = place.textContent;
    const button = document.createElement('button');
    button.type = 'button';
    button.className = 'copy';
    button.textContent = copy;
    button.setAttribute('aria-label', `${copy}: ${place.previousElementSibling?.textContent ?? ''}`);
    button.addEventListener('click', () => {
      void navigator.clipboard.writeText(text).then(() => {
        button.textContent = copied;
      });
    });
    if (place.tagName === 'PRE') place.after(button);
    else place.append(button);
  }
}

addButtons();
const shown = sheet();
if (shown) {
  const events = new EventSource(shown.dataset['events'] ?? '');
  // What somebody is writing below it stays as it is.
  events.addEventListener('changed', ({ data }: MessageEvent<string>) => {
    const html: unknown = JSON.parse(data);
    if (typeof html !== 'string') return;
    shown.innerHTML = html;
    addButtons();
  });
  // The link has ended.
  events.addEventListener('over', () => {
    events.close();
    location.reload();
  });
}
