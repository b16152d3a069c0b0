import { readFileSync } from 'node:fs';
import { demoProject } from '../demo/project';
import { expect, test } from './test';

/** Four minutes of a translation, a cue every four seconds. */
const german = Array.from({ length: 60 }, (_, at) => {
  const clock = (seconds: number) => new Date(seconds * 1000).toISOString().slice(11, 23).replace('.', ',');
  return `${at + 1}\n${clock(4 * at)} --> ${clock(4 * at + 4)}\nDie Boote sind aus Pappe, und die Enten sehen zu.\n`;
}).join('\n');

test('speakers are told apart, named, joined and corrected; what is said shows who says it', async ({ page }) => {
  await page.goto(`/projects/${demoProject.id}/moments`);
  await page.getByRole('tab', { name: 'Words' }).click();
  await page.getByRole('button', { name: 'Speakers' }).click();
  const form = page.getByRole('region', { name: 'Speakers' });
  await form.getByLabel('How many speak').selectOption('3');
  await form.getByRole('button', { name: 'Tell the speakers apart' }).click();
  await expect(form.getByRole('listitem')).toHaveCount(3, { timeout: 60_000 });
  await form.getByLabel('Name of Speaker 1').fill('The host');
  await page.keyboard.press('Enter');
  await expect(form.getByRole('button', { name: 'Listen to The host' })).toBeVisible();
  await form.getByLabel('Join Speaker 3 with').selectOption({ label: 'Speaker 2' });
  await expect(form.getByRole('listitem')).toHaveCount(2);
  await form.getByRole('button', { name: 'Done' }).click();
  const words = page.getByRole('list', { name: 'What is said' });
  await expect(words.getByText('The host').first()).toBeVisible();
  await page.reload();
  await page.getByRole('tab', { name: 'Words' }).click();
  await expect(words.getByText('The host').first()).toBeVisible();

  // Some words were said by somebody else.
  await words.locator('[data-word="1"]').click();
  await words.locator('[data-word="5"]').click({ modifiers: ['Shift'] });
  await page.getByLabel('Who says the marked words').selectOption({ label: 'somebody else' });
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Speakers' }).click();
  await expect(form.getByRole('listitem')).toHaveCount(3);

  // A second language comes in, and the words of the footage stay; captions show both, and who speaks.
  await form.getByRole('button', { name: 'Done' }).click();
  await page.locator('input[aria-label="Timed or plain text"]').setInputFiles({
    name: 'talk.de.srt',
    mimeType: 'text/plain',
    buffer: Buffer.from(german),
  });
  await page.getByRole('button', { name: 'Show the new text' }).click();
  await page.getByRole('button', { name: 'Go back to it' }).click();
  await expect(words.getByText('The host').first()).toBeVisible();
  await page.getByRole('button', { name: /Make reel/ }).click();
  await expect(page).toHaveURL(/reels\/[0-9a-f-]{36}/);
  await page.getByRole('tab', { name: 'Words' }).click();
  await page.getByRole('button', { name: 'Style', exact: true }).click();
  await page.getByRole('button', { name: 'Lamplight' }).click();
  await page.getByLabel('A colour for each speaker').check();
  await expect(page.getByLabel('Speaker 2')).toBeVisible();
  await page.getByLabel('Below, in').selectOption({ label: 'German' });
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Captions in German' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /SubRip/ }).click();
  const file = await download;
  expect(file.suggestedFilename()).toMatch(/\.de\.srt$/);
  expect(readFileSync(await file.path(), 'utf8')).toContain('Boote');
  await page.keyboard.press('Escape');
});
