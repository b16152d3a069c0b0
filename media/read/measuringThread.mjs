/** A thread starts without the loader of TypeScript that its process may have; this registers one and goes on. */
import { register } from 'tsx/esm/api';

register();
await import('./measuringThread.ts');
