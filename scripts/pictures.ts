/** Takes the pictures in docs/screenshots from a running Bright Reel: node --import tsx scripts/pictures.ts [ADDRESS] */
import { chromium } from '@playwright/test';
import { demoProject } from '../demo/project';

const base = process.argv[2] ?? 'http://127.0.0.1:4310';
const demo = `${base}/projects/${demoProject.id}`;
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
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
await page.goto(`${demo}/moments`);
await page.getByText(/\d+ moments/).waitFor();
for (let step = 0; step < 3; step++) await page.keyboard.press(']');
await keep('moments');
await page.getByRole('tab', { name: 'Mix' }).click();
await page.keyboard.press('g');
await page.evaluate(() => (document.activeElement as HTMLElement).blur());
await keep('mix');
await page.getByRole('button', { name: /Make reel/ }).click();
await page.waitForURL(/reels\/[0-9a-f-]{36}/);
await page.keyboard.press(']');
await keep('reel');
await page.getByRole('button', { name: 'Render' }).click();
await page.locator('[data-state=done]').first().waitFor({ timeout: 180_000 });
await keep('outputs');
await page.goto(`${demo}/music`);
await keep('music');
await browser.close();
