import type { Method } from '../../src/core/profile/profile.js';
import type { Ground } from './ground.js';

/** A placement as somebody left it, and the finding that has to come first. */
export interface Scene<G = Ground> {
  readonly what: string;
  readonly arrange: (ground: G) => void;
  /** The code of the first finding; a function where it depends on the engine's rules. */
  readonly first: string | ((ground: G) => string);
  /** Whether the property is `www.` of the name, or a folder of it; the bare name otherwise. */
  readonly at?: 'www' | 'folder';
  /** Left out where it makes no sense for an engine's rules. */
  readonly fits?: (ground: G) => boolean;
}

export interface MethodScene extends Scene {
  readonly method: Method;
}

export function ofMethod<G>(method: Method, scenes: readonly Scene<G>[]): MethodScene[] {
  return scenes.map((scene) => ({ ...(scene as unknown as Scene), method }));
}
