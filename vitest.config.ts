import { defineConfig } from 'vitest/config';

// A busy machine may be ten times slower: a test that has not ended by then hangs. No test has a limit of its own.
const patience = { testTimeout: 600_000, hookTimeout: 600_000 };
const testsIn = (room: string) => `${room}/**/*.test.{ts,tsx}`;
const others = ['media', 'data', 'usecases', 'settings', 'jobs', 'app', 'web', 'cli', 'demo', 'scripts'];

export default defineConfig({
  test: {
    maxWorkers: 2,
    reporters: ['default', ['json', { outputFile: 'tmp/unit.json' }]],
    projects: [
      // The core keeps nothing between calls, so its tests need not load it anew for every file.
      { test: { ...patience, name: 'core', include: [testsIn('core')], isolate: false } },
      {
        test: {
          ...patience,
          name: 'rooms',
          include: others.map(testsIn),
          // Its folders have no entry that Node finds.
          server: { deps: { inline: [/@atlaskit\//] } },
        },
      },
    ],
  },
});
