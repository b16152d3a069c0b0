import { useEffect } from 'react';

interface Manifest {
  routes: Record<string, { module: string } | undefined>;
}

/**
 * Loads the code of all places once the screen is idle, so that going to another one needs nothing but its data: with the
 * server away the router would load the page again, and there would be none.
 */
export function useKeptScreens(): void {
  useEffect(() => {
    const load = () => {
      const routes = (window as { __reactRouterManifest?: Manifest }).__reactRouterManifest?.routes ?? {};
      for (const route of Object.values(routes))
        if (route) void import(/* @vite-ignore */ route.module).catch(() => undefined);
    };
    const timer = setTimeout(load, 500);
    return () => clearTimeout(timer);
  }, []);
}
