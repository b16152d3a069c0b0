// Worker threads do not inherit the TypeScript loader of their parent on Node 20; this one brings it along.
import { register } from 'tsx/esm/api';

register();
await import('./faceWorker.ts');
