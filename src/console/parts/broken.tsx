import { isReloading } from '../reload.js';
import { Button } from './button.js';
import { Notice } from './notice.js';

/** In place of a page that cannot be shown: most often Yard Badge is a newer one than the browser has loaded. */
export function Broken() {
  if (isReloading()) return <p className="waiting text-faint">Opening the page …</p>;
  return (
    <Notice kind="stops">
      This page cannot be shown. Nothing that you saved is lost. Load it again; if that does not help, tell
      whoever runs Yard Badge.{' '}
      <Button
        onClick={() => {
          location.reload();
        }}
      >
        Load again
      </Button>
    </Notice>
  );
}
