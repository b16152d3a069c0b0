import { settings } from '#settings';
import { simulatedOutlet } from './simulated';
import type { Outlet } from './types';

export * from './types';

/** The outlets of this installation. The simulated one is there when its address is known; `./start` starts it. */
export function outlets(): Outlet[] {
  const address = settings().BRIGHT_REEL_OUTLET_URL;
  return address ? [simulatedOutlet(address.replace(/\/$/, ''))] : [];
}
