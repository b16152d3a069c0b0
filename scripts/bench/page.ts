/**
 * How soon the screens answer, in Debian's Chromium. Needs DATABASE_URL (an empty database) and a built application;
 * prints ratios to what was asked for. `page.ts page` measures immediacy, `page.ts large` large documents, without a
 * word both; `page.ts serve` only serves what is measured.
 */
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { chromium } from '@playwright/test';
import { closeDatabase, migrateDatabase } from '#data/db';
import { migrateQueue } from '#usecases/queue';
import { measureImmediacy } from './immediacy';
import { instruments } from './instruments';
import { makeLongSong, makeLongTalk, makeTenHours, measureLarge } from './large';
import { measureLargeReel } from './largeReel';
import { makeFlashes, makeTwoHours } from './projects';

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

async function isUp(base: string) {
  for (let attempt = 0; attempt < 100; attempt++) {
    const answered = await fetch(`${base}/ready`).then(
      (answer) => answer.ok,
      () => false,
    );
    if (answered) return;
    await new Promise((wake) => setTimeout(wake, 200));
  }
  throw new Error('The server does not answer.');
}

async function openPage() {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--autoplay-policy=no-user-gesture-required',
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // Named functions carry a helper of the compiler with them.
  await page.addInitScript('globalThis.__name = (value) => value');
  await page.addInitScript(instruments);
  return { browser, page };
}

const what = process.argv[2] ?? '';
await migrateDatabase();
await migrateQueue();
const { projectId, reelId, large } = await makeTwoHours();
const flashes = await makeFlashes(projectId);
const isLargeWanted = what !== 'page';
const tenHours = isLargeWanted ? await makeTenHours() : null;
const song = tenHours && (await makeLongSong(tenHours.projectId, tenHours.films));
const talk = isLargeWanted ? await makeLongTalk() : null;
const port = await freePort();
const server = spawn('node', ['--import', 'tsx', 'web/server.ts'], {
  env: { ...process.env, PORT: String(port), HOST: '127.0.0.1', NODE_ENV: 'production' },
  stdio: 'ignore',
});
try {
  const base = `http://127.0.0.1:${port}`;
  await isUp(base);
  const project = `${base}/projects/${projectId}`;
  const reel = (id: string) => `${project}/reels/${id}`;
  if (what === 'serve') {
    console.log(
      JSON.stringify({
        project,
        reel: reel(reelId),
        flashes: reel(flashes),
        large: reel(large),
        tenHours: tenHours?.projectId,
        song,
        talk,
      }),
    );
    await new Promise((end) => process.once('SIGTERM', end));
    server.kill('SIGKILL');
    process.exit();
  }
  const { browser, page } = await openPage();
  if (what !== 'large') await measureImmediacy(page, { project, reel: reel(reelId), flashes: reel(flashes) });
  if (tenHours && song && talk) {
    await measureLargeReel(page, reel(large));
    await measureLarge(page, {
      tenHours: `${base}/projects/${tenHours.projectId}`,
      song,
      talk: `${base}/projects/${talk}`,
    });
  }
  await browser.close();
} finally {
  // Nothing is asked of it any more.
  server.kill('SIGKILL');
  await closeDatabase();
}
