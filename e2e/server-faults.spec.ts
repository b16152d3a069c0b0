import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, newProject, settled, test } from './test';

const demo = '/projects/0b0a7000-0000-4000-8000-000000000001';

test('a killed worker: its task is taken up again by another', async ({ page }) => {
  // The worker may still be busy with what the tests before left to be read.
  test.setTimeout(400_000);
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-e2e-'));
  const film = join(folder, 'long.mp4');
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=1280x720:r=30:d=40',
    '-pix_fmt',
    'yuv420p',
    '-preset',
    'ultrafast',
    '-g',
    '30',
    film,
  ]);
  await newProject(page, 'Faults');
  await page.getByLabel('Files', { exact: true }).setInputFiles(film);
  await expect(page.getByText('being read…')).toBeVisible({ timeout: 150_000 });
  const killed = readFileSync(process.env.BRIGHT_REEL_WORKER_PID_FILE!, 'utf8');
  process.kill(Number(killed), 'SIGKILL');
  const row = page.getByRole('row', { name: /long\.mp4/ });
  await expect(row).toContainText('being read…');
  await expect(row).not.toContainText(/being read|waits|next in line/, { timeout: 200_000 });
  await expect(row).toContainText('nobody in frame');
  expect(readFileSync(process.env.BRIGHT_REEL_WORKER_PID_FILE!, 'utf8')).not.toBe(killed);
});

test('a server that is away: the decision is kept and sent when it is back', async ({ page, allow }) => {
  allow(/^net::ERR_FAILED POST \/projects\/[\w-]+\/log/);
  await page.goto(`${demo}/moments`);
  await expect(page.getByTestId('count')).toHaveText(/^[1-9]\d* moments, /);
  await page.route('**/log', (route) => route.abort());
  const byHand = page.getByText(/kept by hand, /);
  // Decisions come to the worker, and the worker counts, a little later than the page is there.
  const settled = async () => {
    let last = '';
    await expect(async () => {
      const now = await byHand.innerText();
      const isSame = now === last;
      last = now;
      expect(isSame).toBe(true);
    }).toPass({ intervals: [1000] });
    return last;
  };
  const before = await settled();
  await page.keyboard.press(']');
  await page.keyboard.press('+');
  await expect(page.getByTestId('save-state')).toHaveText('Kept here');
  await expect(byHand).not.toHaveText(before);
  const kept = await settled();
  await page.reload();
  await page.unroute('**/log');
  await expect(page.getByTestId('save-state')).toHaveText('Saved');
  await page.reload();
  await expect(page.getByText(kept)).toBeVisible();
});

test('nothing on the demo screens is logged as an error', async ({ page }) => {
  const errors: string[] = [];
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  page.on('pageerror', (error) => errors.push(error.message));
  for (const place of ['footage', 'moments', 'reels', 'music', 'outputs']) {
    await page.goto(`${demo}/${place}`);
    await expect(page.locator('main')).toBeVisible();
    await settled(page);
  }
  expect(errors).toEqual([]);
});
