/**
 * How fast the Moments screen is with two hours of footage in forty files, in Debian's Chromium: generated traces, and
 * one real file for pictures. Needs DATABASE_URL (an empty database) and a built application; prints ratios to a budget.
 */
import { execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createServer } from 'node:net';
import { chromium, type Page } from '@playwright/test';
import { displayTraceNames, lookHz, readerVersion, summarize } from '#core/readings';
import { bringIn } from '#data/bringIn';
import { closeDatabase, database, migrateDatabase } from '#data/db';
import { addFile, addMedia, keyOf } from '#data/media';
import { assembleReel } from '#core/reel';
import { rates } from '#core/time';
import { createProject } from '#data/projects';
import { createReel } from '#data/reels';
import { saveReading } from '#data/readings';
import { readings, runs, traces } from '#data/schema';
import { migrateQueue } from '#usecases/queue';
import { storedParts } from '#usecases/background/readFile';
import { unpackReading } from '#media/read/readingPack';
import { makeLargeReel, measureLargeReel } from './benchLargeReel';
import { threeMinutes } from './threeMinutes';

const frameMilliseconds = 1000 / 60;
const row = (name: string, milliseconds: number, budget: number) =>
  console.log(
    `${name.padEnd(58)} ${(milliseconds / budget).toFixed(2)} of the budget  (${milliseconds.toFixed(0)} ms of ${budget.toFixed(0)}; ${(milliseconds / frameMilliseconds).toFixed(1)} frames of 60 a second)`,
  );

const bytes = (values: Float32Array) => Buffer.from(values.buffer, values.byteOffset, values.byteLength);

/** A film that turns white for three frames and beeps at the same moment, once a second, and a reel of ten pieces of it. */
async function makeFlashes(projectId: string): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-bench-'));
  const file = join(folder, 'flashes.mp4');
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    "color=black:s=1280x720:r=30:d=40,drawbox=c=white:t=fill:enable='lt(mod(t+0.6\\,1)\\,0.099)'",
    '-f',
    'lavfi',
    '-i',
    "aevalsrc='0.8*sin(2*PI*1000*t)*lt(mod(t+0.6\\,1)\\,0.1)':s=48000:d=40",
    '-pix_fmt',
    'yuv420p',
    '-g',
    '60',
    '-c:a',
    'aac',
    '-b:a',
    '192k',
    '-movflags',
    '+faststart',
    file,
  ]);
  const item = await bringIn(projectId, file, 'flashes.mp4', { copy: true, binId: null });
  rmSync(folder, { recursive: true });
  const made = threeMinutes(1);
  await database()
    .insert(readings)
    .values({
      ...keyOf(item),
      version: readerVersion,
      probe: {
        kind: 'video',
        durationSeconds: 40,
        rate: { num: 30, den: 1 },
        width: 1280,
        height: 720,
        hasSound: true,
        videoCodec: 'h264',
        audioCodec: 'aac',
        format: 'mp4',
      },
      summary: summarize({ durationSeconds: 40, hz: 10, traces: made.traces, runs: [] }),
      faces: [],
      objects: [],
      warnings: [],
      tookSeconds: 0,
    });
  const pieces = Array.from({ length: 10 }, (_, index) => ({
    media: item.id,
    start: ((index * 7) % 10) * 3.6 + 0.1,
    end: ((index * 7) % 10) * 3.6 + 3.1,
    name: 'flashes',
  }));
  return createReel(
    projectId,
    assembleReel(
      'Flashes',
      pieces,
      new Map([[item.id, { id: item.id, name: 'flashes', durationSeconds: 40 }]]),
      rates['30'],
      { width: 1280, height: 720 },
      () => crypto.randomUUID(),
    ),
  );
}

async function makeProject(): Promise<{ projectId: string; reelId: string; large: string }> {
  const project = await createProject('Two hours');
  const real = await bringIn(project.id, 'demo/media/race-day.mp4', 'race-day.mp4', { copy: true, binId: null });
  const reading = unpackReading(readFileSync('demo/readings/race-day.mp4/reading.json.gz'));
  if (reading)
    await saveReading({
      ...keyOf(real),
      version: readerVersion,
      ...storedParts(reading),
      proxyKey: null,
      tookSeconds: 0,
    });
  for (let file = 1; file < 40; file++) {
    const hash = `bench${String(file).padStart(2, '0')}`.padEnd(64, '0');
    await addFile(hash, 1, `missing/${file}`);
    const item = await addMedia(project.id, hash, `pond-${String(file).padStart(2, '0')}.mp4`);
    const made = threeMinutes(file);
    const key = { ...keyOf(item), version: readerVersion };
    await database()
      .insert(readings)
      .values({
        ...key,
        probe: {
          kind: 'video',
          durationSeconds: 180,
          rate: { num: 25, den: 1 },
          width: 1280,
          height: 720,
          hasSound: true,
          videoCodec: 'h264',
          audioCodec: 'aac',
          format: 'mp4',
        },
        summary: summarize({ durationSeconds: 180, hz: 10, traces: made.traces, runs: made.runs }),
        faces: [],
        objects: [],
        warnings: [],
        tookSeconds: 0,
      });
    await database()
      .insert(traces)
      .values([
        ...displayTraceNames.map((name) => ({
          ...key,
          family: 'decided' as const,
          name,
          hz: 10,
          start: 0,
          values: bytes(made.traces[name]),
        })),
        { ...key, family: 'look' as const, name: 'look', hz: lookHz, start: 0, values: bytes(made.look) },
      ]);
    await database()
      .insert(runs)
      .values(made.runs.map(({ kind, start, end }) => ({ ...key, kind, start, end })));
  }
  // A reel of pieces that are there: the other files are traces only.
  const pieces = Array.from({ length: 10 }, (_, index) => ({
    media: real.id,
    start: 8 + index * 23,
    end: 14 + index * 23,
    name: 'race-day',
  }));
  const reel = assembleReel(
    'Bench',
    pieces,
    new Map([[real.id, { id: real.id, name: 'race-day', durationSeconds: 250 }]]),
    rates['30'],
    { width: 1280, height: 720 },
    () => crypto.randomUUID(),
  );
  return {
    projectId: project.id,
    reelId: await createReel(project.id, reel),
    large: await makeLargeReel(project.id, real.id),
  };
}

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
const worst = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.95)]!;

/** From a key to the last line of the page that is drawn anew because of it. */
const repaint = (page: Page, key: string) =>
  page.evaluate(
    (pressed) =>
      new Promise<number>((resolve) => {
        const started = performance.now();
        (window as unknown as { drawn: number }).drawn = 0;
        document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: pressed, bubbles: true }));
        const look = () => {
          const { drawn } = window as unknown as { drawn: number };
          if (drawn > started || performance.now() - started > 3000) resolve(Math.max(drawn, started) - started);
          else requestAnimationFrame(look);
        };
        requestAnimationFrame(look);
      }),
    key,
  );

/** From a key to the new frame of the video on screen. */
const frameStep = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        const started = performance.now();
        document
          .querySelector<HTMLVideoElement>('#viewer video')!
          .requestVideoFrameCallback((now) => resolve(now - started));
        document.body.dispatchEvent(
          new KeyboardEvent('keydown', { key: 'ArrowRight', code: 'ArrowRight', bubbles: true }),
        );
        document.body.dispatchEvent(
          new KeyboardEvent('keyup', { key: 'ArrowRight', code: 'ArrowRight', bubbles: true }),
        );
      }),
  );

await migrateDatabase();
await migrateQueue();
const { projectId, reelId, large } = await makeProject();
const flashes = await makeFlashes(projectId);
const port = await freePort();
const server = spawn('node', ['node_modules/.bin/react-router-serve', 'build/server/index.js'], {
  env: { ...process.env, PORT: String(port), HOST: '127.0.0.1', NODE_ENV: 'production' },
  stdio: 'ignore',
});
try {
  const base = `http://127.0.0.1:${port}`;
  for (let attempt = 0; attempt < 100; attempt++) {
    if (
      await fetch(`${base}/health`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      break;
    await new Promise((wake) => setTimeout(wake, 200));
  }
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
  await page.addInitScript(() => {
    // Page lines clear their canvas, 84 pixels high, before they are drawn; the landscape has another height.
    const { clearRect } = CanvasRenderingContext2D.prototype;
    CanvasRenderingContext2D.prototype.clearRect = function (x, y, width, height) {
      if (height === 84) (window as unknown as { drawn: number }).drawn = performance.now();
      return clearRect.call(this, x, y, width, height);
    };
    // A picture of the reel's viewer counts when its film stands at the frame that is wanted.
    const draw = CanvasRenderingContext2D.prototype.drawImage as (
      this: CanvasRenderingContext2D,
      ...given: unknown[]
    ) => void;
    CanvasRenderingContext2D.prototype.drawImage = function (this: CanvasRenderingContext2D, ...given: unknown[]) {
      if (given[0] instanceof HTMLVideoElement && !given[0].seeking)
        ((window as unknown as { viewed: number[] }).viewed ??= []).push(performance.now());
      draw.apply(this, given);
      const watch = window as unknown as { lights?: number[]; lit?: boolean };
      if (!watch.lights || !(given[0] instanceof HTMLVideoElement) || this.canvas.width < 200) return;
      const lit = this.getImageData(this.canvas.width / 2, this.canvas.height / 2, 1, 1).data[0]! > 128;
      if (lit && !watch.lit) watch.lights.push(performance.now());
      watch.lit = lit;
    };
    // What elements give to the loudspeakers is listened to on its way, for the first loud sample behind silence.
    const wire = AudioContext.prototype.createMediaElementSource;
    AudioContext.prototype.createMediaElementSource = function (element) {
      const node = wire.call(this, element);
      const ear = this.createAnalyser();
      ear.fftSize = 4096;
      node.connect(ear);
      const heard = new Float32Array(4096);
      let last = -Infinity;
      setInterval(() => {
        const beeps = (window as unknown as { beeps?: number[] }).beeps;
        if (!beeps || element.paused) return;
        ear.getFloatTimeDomainData(heard);
        const at = heard.findIndex((value) => Math.abs(value) > 0.2);
        // It is heard a little later than it is computed.
        const now = performance.now() - ((heard.length - at) / this.sampleRate) * 1000 + this.outputLatency * 1000;
        if (at > 480 && now - last > 500) {
          last = now;
          beeps.push(now);
        }
      }, 20);
      return node;
    };
  });
  const first: number[] = [];
  for (let round = 0; round < 3; round++) {
    await page.goto(`${base}/projects/${projectId}/footage`);
    await page.waitForTimeout(1500);
    first.push(
      await page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const started = performance.now();
            [...document.querySelectorAll('a')].find((link) => link.textContent === 'Moments')!.click();
            const look = () => {
              const count = document.querySelector('[data-testid=count]')?.textContent ?? '';
              if (/^[1-9]\d* moments/.test(count) && document.querySelector('[data-line] canvas'))
                requestAnimationFrame(() => resolve(performance.now() - started));
              else requestAnimationFrame(look);
            };
            look();
          }),
      ),
    );
  }
  row('first screen of two hours in forty files', median(first), 1500);

  await page.getByRole('tab', { name: 'Mix' }).click();
  const moves: number[] = [];
  await page.getByRole('slider', { name: 'Action' }).focus();
  for (let step = 0; step < 12; step++) {
    moves.push(await repaint(page, step % 2 ? 'ArrowLeft' : 'ArrowRight'));
    await page.waitForTimeout(700);
  }
  row('a weight moves until the page is drawn anew, median', median(moves), 100);
  row('the same, slowest of twenty', worst(moves), 100);

  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await page.waitForTimeout(500);
  const steps: number[] = [];
  for (let step = 0; step < 20; step++) {
    steps.push(await frameStep(page));
    await page.waitForTimeout(150);
  }
  row('a frame step from key to picture, median', median(steps), 100);

  await page.goto(`${base}/projects/${projectId}/moments?line=10`);
  await page.locator('[data-line] canvas').first().waitFor();
  await page.waitForTimeout(1500);
  const frames = await page.evaluate(
    () =>
      new Promise<number[]>((resolve) => {
        const scroller = document.querySelector('[aria-label="Footage, end to end"]')!;
        const times: number[] = [];
        let last = performance.now();
        const step = (now: number) => {
          times.push(now - last);
          last = now;
          scroller.scrollTop += 24;
          if (times.length < 240) requestAnimationFrame(step);
          else resolve(times.slice(10));
        };
        requestAnimationFrame(step);
      }),
  );
  row('scrolling two hours at 10 s a line, a frame, median', median(frames), frameMilliseconds);
  row('the same, slowest of twenty', worst(frames), frameMilliseconds);

  await page.goto(`${base}/projects/${projectId}/reels/${reelId}`);
  await page.locator('[data-piece]').first().waitFor();
  await page.waitForTimeout(2000);
  const scrubs: number[] = [];
  for (let step = 0; step < 20; step++) {
    scrubs.push(
      await page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const seen = window as unknown as { viewed: number[] };
            seen.viewed = [];
            const started = performance.now();
            document.body.dispatchEvent(
              new KeyboardEvent('keydown', { key: 'ArrowRight', code: 'ArrowRight', shiftKey: true, bubbles: true }),
            );
            document.body.dispatchEvent(
              new KeyboardEvent('keyup', { key: 'ArrowRight', code: 'ArrowRight', shiftKey: true, bubbles: true }),
            );
            const look = () =>
              seen.viewed.length
                ? resolve(seen.viewed[0]! - started)
                : performance.now() - started > 3000
                  ? resolve(3000)
                  : requestAnimationFrame(look);
            requestAnimationFrame(look);
          }),
      ),
    );
    await page.waitForTimeout(250);
  }
  row('a second on in a reel, from key to picture, median', median(scrubs), 100);
  row('the same, slowest of twenty', worst(scrubs), 100);
  await page.keyboard.press('Home');
  await page.waitForTimeout(800);
  await page.evaluate(() => void ((window as unknown as { viewed: number[] }).viewed = []));
  await page.keyboard.press('Space');
  await page.waitForTimeout(8000);
  const shown = await page.evaluate(() => (window as unknown as { viewed: number[] }).viewed);
  await page.keyboard.press('Space');
  // What comes before the first second is starting up.
  const gaps = shown
    .slice(1)
    .map((at, index) => at - shown[index]!)
    .slice(20);
  row(
    'a frame of a playing reel of 720p, mean',
    gaps.reduce((sum, gap) => sum + gap, 0) / Math.max(1, gaps.length),
    1000 / 30,
  );

  await page.goto(`${base}/projects/${projectId}/reels/${flashes}`);
  await page.locator('[data-piece]').first().waitFor();
  await page.waitForTimeout(2000);
  await page.evaluate(() => void Object.assign(window, { lights: [], beeps: [] }));
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await page.waitForTimeout(29_000);
  const { lights, beeps } = await page.evaluate(() => {
    const { lights, beeps } = window as unknown as { lights: number[]; beeps: number[] };
    return { lights, beeps };
  });
  const apart = lights.flatMap((light) => {
    const beep = beeps.reduce(
      (near, each) => (Math.abs(each - light) < Math.abs(near - light) ? each : near),
      Infinity,
    );
    return Math.abs(beep - light) < 400 ? [Math.abs(beep - light)] : [];
  });
  row(`picture and sound of a playing reel apart, median of ${apart.length}`, median(apart), 40);
  row('the same, worst of twenty', worst(apart), 40);
  await measureLargeReel(page, `${base}/projects/${projectId}/reels/${large}`, row, median);
  await browser.close();
} finally {
  server.kill();
  await closeDatabase();
}
