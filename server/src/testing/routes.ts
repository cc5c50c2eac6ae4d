// Every address that an application answers, as its router has them: so that a walk forgets none.
import type { Express } from 'express';
import type { Right } from '@kalvet/core';
import type { Guard } from '../people/who.ts';

interface Layer {
  readonly route?: {
    readonly path: string;
    readonly stack: readonly { readonly method?: string; readonly handle: Partial<Guard> }[];
  };
  readonly handle?: { readonly stack?: readonly Layer[] };
}

export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'patch';
  readonly path: string;
  /** What its guard asks for; undefined where it has none. */
  readonly right: Right | 'anybody' | undefined;
}

export function routesOf(app: Express): Route[] {
  const walk = (layers: readonly Layer[], under: string): Route[] =>
    layers.flatMap(({ route, handle }) => {
      if (route) {
        const right = route.stack.map((each) => each.handle.right).find((each) => each !== undefined);
        const methods = [...new Set(route.stack.map(({ method }) => method as Route['method']))];
        return methods.map((method) => ({ method, path: under + route.path, right }));
      }
      return walk(handle?.stack ?? [], '/api');
    });
  return walk((app as unknown as { router: { stack: readonly Layer[] } }).router.stack, '').filter(({ path }) =>
    path.startsWith('/api'),
  );
}
