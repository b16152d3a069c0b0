/** Takes the pictures in docs/screenshots from a running Bright Reel: node --import tsx scripts/pictures.ts [ADDRESS] */
import { chromium } from '@playwright/test';
import { hintsKept } from '../app/hints/hintWords';
import { demoProject } from '../demo/project';

const base = process.argv[2] ?? 'http://127.0.0.1:4310';
const demo = `${base}/projects/${demoProject.id}`;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript((kept) => localStorage.setItem(kept, '*'), hintsKept);
const keep = async (name: string) => {
  await page.mouse.move(640, 2);
  await page.waitForTimeout(1800);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
};

await page.goto(base);
await keep('home');
await page.goto(`${demo}/footage`);
await keep('footage');
await page.getByRole('link', { name: 'race-day.mp4' }).click();
await page.getByTestId('decided').waitFor();
await keep('report');
await page.goto(`${demo}/footage/people`);
await keep('people');
await page.goto(`${demo}/moments?at=66`);
await page.getByText(/\d+ moments/).waitFor();
await page.getByRole('tab', { name: 'Words' }).click();
await page.evaluate(() => (document.activeElement as HTMLElement).blur());
await keep('words');
const ready = () => page.getByText(/[1-9]\d* moments, /).waitFor();
await page.goto(`${demo}/moments`);
await ready();
for (let step = 0; step < 3; step++) await page.keyboard.press(']');
await keep('moments');
for (const keys of ['+', ']', ']', '-', 'Alt+2']) await page.keyboard.press(keys);
await page.getByTestId('proposal').waitFor();
await page.keyboard.press('g');
await page.evaluate(() => (document.activeElement as HTMLElement).blur());
await keep('mix');
for (const keys of ['Control+z', 'Control+z', 'g']) await page.keyboard.press(keys);

await page.goto(
  `${demo}/moments?panel=found&ask=${encodeURIComponent('boats close up or two faces, talking, not shaky')}`,
);
await page.getByTestId('found-count').waitFor();
await keep('ask');
await page.goto(`${demo}/moments?view=scenes`);
await page.getByTestId('scene-count').waitFor();
for (const keys of [']', '2', ']', '1', ']', '2', ']']) await page.keyboard.press(keys);
await keep('scenes');
await page.goto(`${demo}/moments`);
await ready();
await page.waitForTimeout(2000);
for (const keys of [']', 'Enter']) await page.keyboard.press(keys);
await page.getByRole('region', { name: /^Open reel/ }).waitFor();
for (const keys of [']', 'Enter', ']', ']', 'Enter', ']', 'Enter', 'Shift+M']) {
  await page.keyboard.press(keys);
  await page.waitForTimeout(300);
}
await page.keyboard.type('best line of the builder');
await page.keyboard.press('Enter');
await page.keyboard.press('Alt+1');
await keep('selects');
await page.goto(`${demo}/music`);
await page.locator('[data-slot]').nth(20).waitFor({ timeout: 120_000 });
await page.waitForTimeout(6000);
for (const number of [4, 9, 14]) {
  await page.locator('[data-slot]').nth(number).click();
  await page.keyboard.press('l');
}
await page.locator('[data-slot]').nth(22).click();
await page.getByRole('tab', { name: 'Pieces' }).click();
await page.evaluate(() => (document.activeElement as HTMLElement).blur());
await keep('music');
await page.goto(`${demo}/shorts`);
await page.getByRole('button', { name: 'Find shorts' }).click();
await page.locator('[data-short]').nth(4).waitFor();
await page
  .getByTestId('follows')
  .getByText(/^follows/)
  .waitFor({ timeout: 180_000 });
await page.waitForTimeout(3000);
await page
  .locator('[data-short]')
  .nth(1)
  .getByRole('button', { name: /^Short/ })
  .click();
await page.waitForTimeout(2000);
await page.keyboard.press('Shift+ArrowRight');
await keep('shorts');
await page.goto(`${demo}/variants`);
for (const [group, files] of [
  ['Openings', ['pan-over-the-pond', 'captain-close', 'photo-start']],
  ['Middles', ['boats-cross-fast', 'child-laughs', 'walk-to-the-pier']],
  ['Endings', ['photo-evening', 'photo-crew']],
] as const) {
  await page.getByRole('button', { name: `Add to ${group}` }).click();
  for (const file of files)
    await page
      .getByRole('region', { name: 'Files' })
      .getByRole('button', { name: new RegExp(`^${file}`) })
      .click();
  await page.keyboard.press('Escape');
}
await page.getByRole('combobox', { name: 'Picture' }).selectOption('1080×1920');
await page.getByRole('button', { name: /^04 / }).click();
await page.waitForTimeout(3000);
await keep('variants');
await page.goto(`${demo}/moments?panel=mix`);
await ready();
await page.getByRole('button', { name: /Make reel/ }).click();
await page.waitForURL(/reels\/[0-9a-f-]{36}/);
await page.keyboard.press(']');
await keep('reel');
await page.getByRole('tab', { name: 'Sound' }).click();
await page.getByRole('combobox', { name: /^Music/ }).selectOption({ label: 'paper-sails.m4a, 1:14' });
await page.getByRole('combobox', { name: /^Loudness/ }).selectOption('-16');
await page.evaluate(() => (document.activeElement as HTMLElement).blur());
await page.keyboard.press('Space');
await page.waitForTimeout(2500);
await page.keyboard.press('k');
await keep('sound');
await page.getByRole('tab', { name: 'Versions' }).click();
await page.getByLabel('Name of the version').fill('first cut');
await page.getByRole('button', { name: 'Keep as a version' }).click();
await page.getByRole('tab', { name: 'Look' }).click();
await page.getByLabel('Theme').selectOption('Brass band');
await page.getByRole('tab', { name: 'Titles' }).click();
await page.getByRole('button', { name: 'Lower third' }).click();
await page.getByLabel('Text', { exact: true }).first().fill('The red boat leads');
await page.keyboard.press('Enter');
await page.getByRole('tab', { name: 'Look' }).click();
await keep('look');
await page.locator('[data-piece]').nth(4).click();
await page.keyboard.press('Delete');
await page.getByRole('tab', { name: 'Versions' }).click();
await page.getByRole('button', { name: 'Compare with “first cut”' }).click();
await page.getByRole('region', { name: 'Differences' }).waitFor();
await keep('versions');
await page.getByRole('button', { name: 'Close the reel above' }).click();
await page.getByRole('tab', { name: 'Piece' }).click();
await page.getByLabel('Another reel above').selectOption({ label: 'Selects' });
await page.getByRole('region', { name: /^Above/ }).waitFor();
for (const keys of ['Backquote', ']', 'Shift+Enter']) await page.keyboard.press(keys);
for (const keys of ['Control+z', 'Backquote']) await page.keyboard.press(keys);
await page.getByRole('button', { name: 'Close the reel above' }).click();
await page.getByRole('button', { name: 'Render' }).click();
await page.getByRole('button', { name: 'Start', exact: true }).click();
await page.locator('[data-state=done]').first().waitFor({ timeout: 900_000 });
await keep('outputs');
await page.goto(`${demo}/moments`);
await ready();
await page.getByLabel('Target length').fill('0:20');
await page.keyboard.press('Enter');
await page.waitForTimeout(2000);
await page.getByRole('button', { name: /Make reel/ }).click();
await page.waitForURL(/reels\/[0-9a-f-]{36}/);
await page.getByRole('tab', { name: 'Viewing' }).click();
await page.getByRole('button', { name: 'Make a link' }).click();
const link = await page.getByRole('textbox', { name: 'Link' }).inputValue();
await page.goto(link);
await page.locator('video').waitFor({ timeout: 900_000 });
for (const [seconds, name, text] of [
  [3, 'Ada', 'Can we begin with the launch instead? The pan is lovely, but long.'],
  [9.6, 'Ben', 'The name of the boat should be written here: “Paper Tiger”.'],
] as const) {
  await page.locator('video').evaluate((film: HTMLVideoElement, to) => void (film.currentTime = to), seconds);
  await page.waitForTimeout(800);
  await page.getByPlaceholder(/^What should be different/).fill(text);
  await page.getByLabel('Your name').fill(name);
  await page.getByRole('button', { name: /^Comment at/ }).click();
  await page.getByText(text).waitFor();
}
await keep('viewing');
await browser.close();
