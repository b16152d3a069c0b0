import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  timeout: 420_000,
  expect: { timeout: 30_000 },
  workers: 1,
  retries: 1,
  outputDir: 'tmp/e2e',
  reporter: [['list'], ['json', { outputFile: 'tmp/e2e.json' }]],
  use: {
    baseURL: process.env.BRIGHT_REEL_URL,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    actionTimeout: 60_000,
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
