import { afterEach, describe, expect, it, vi } from 'vitest';
import { bounded, type FileTarget } from '../../src/net/targets/file-target.js';

describe('a way on which the other side takes without end', () => {
  afterEach(() => vi.useRealTimers());

  it('is left after five minutes, and closed', async () => {
    vi.useFakeTimers();
    const close = vi.fn(() => Promise.resolve());
    const never = () => new Promise<never>(() => undefined);
    const way: FileTarget = {
      read: never,
      write: never,
      settle: never,
      remove: () => Promise.resolve(),
      close,
    };
    const reading = bounded(way)
      .read('/robots.txt')
      .catch((error: unknown) => error);
    await vi.advanceTimersByTimeAsync(299_000);
    expect(close).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(2_000);
    expect(await reading).toMatchObject({ kind: 'unreached' });
    expect(close).toHaveBeenCalledOnce();
    await bounded(way).remove('/robots.txt');
    expect(vi.getTimerCount()).toBe(0);
  });
});
