// Bundles every program into one file of JavaScript each, with what they share beside them, so that nothing has to be
// translated when they start and only packages with code of the machine have to be installed. Usage: bundle.mjs FOLDER
import { readFileSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

const folder = process.argv[2];
const { dependencies, optionalDependencies } = JSON.parse(readFileSync('package.json', 'utf8'));
const common = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  // Packages that bring code of the machine, or files; they stay packages.
  external: [
    ...Object.keys({ ...dependencies, ...optionalDependencies }).map((name) => `${name}*`),
    'pg-native',
    'fsevents',
  ],
  define: { 'process.env.NODE_ENV': '"production"' },
  // Some packages ask for others by require, which modules do not have of their own.
  banner: {
    js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
  },
  logLevel: 'warning',
  logOverride: { 'direct-eval': 'silent', 'empty-import-meta': 'silent', 'package.json': 'silent' },
};
/** Entry points by the names under which `setup.sh` finds them. */
const programs = {
  'web-server': 'web/server.ts',
  'jobs-worker': 'jobs/worker.ts',
  'cli-main': 'cli/main.ts',
  'scripts-prepare': 'scripts/prepare.ts',
  'standins-server': 'standins/server.ts',
  measuringThread: 'media/read/measuringThread.ts',
};
await build({ ...common, entryPoints: programs, splitting: true, outdir: join(folder, 'programs') });
renameSync(join(folder, 'programs/measuringThread.js'), join(folder, 'programs/measuringThread.mjs'));
/** What is looked for where its source lies. */
const inPlace = {
  'usecases/threads/start': 'usecases/threads/thread.ts',
  'usecases/background/pulseThread': 'usecases/background/pulseThread.mjs',
  'media/words/models/hearing': 'media/words/models/hearing.mjs',
  'scripts/rotate': 'scripts/rotate.mjs',
};
await build({ ...common, entryPoints: inPlace, outdir: folder, outExtension: { '.js': '.mjs' } });
await build({ ...common, entryPoints: { index: 'build/server/index.js' }, outdir: join(folder, 'build/server') });
