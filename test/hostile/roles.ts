import type { Role } from '../../src/api/documents.js';
import { routes, type RouteName } from '../../src/api/routes.js';
import type { Caller } from './ground.js';

/** One route, asked for by somebody who may not. */
export interface Asked {
  readonly what: string;
  readonly caller: Caller;
  readonly method: string;
  readonly path: string;
  readonly status: number;
}

const RANKS: readonly Role[] = ['onlooker', 'consultant', 'lead'];

/** Every route that is not anyone's, asked for by all who may not: the lower roles, and one whose access was ended. */
export function rolesOf(): Asked[] {
  return (Object.keys(routes) as RouteName[]).flatMap((name): Asked[] => {
    const { method, path: pattern, role } = routes[name];
    if (role === 'anyone') return [];
    const lower = RANKS.slice(0, RANKS.indexOf(role));
    const path = pattern.replace(/:\w+/g, 'quay');
    return (['gone', ...lower] as const).map((caller) => ({
      what: `${caller} asks for ${name}`,
      caller,
      method,
      path,
      status: caller === 'gone' ? 401 : 403,
    }));
  });
}
