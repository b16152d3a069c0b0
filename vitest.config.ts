import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,media,data,usecases,settings,jobs,app,cli,demo,scripts}/**/*.test.{ts,tsx}'],
    testTimeout: 180_000,
    hookTimeout: 180_000,
    maxWorkers: 2,
    reporters: ['default', ['json', { outputFile: 'tmp/unit.json' }]],
  },
});
