import { writeFileSync } from 'node:fs';
import { writeWhisperModel } from '../media/testMaterial/whisperModel';
import { demoProject } from '../demo/project';
import { expect, test } from './test';

test('a speech model that is brought in hears the words from then on, in the language that is spoken', async ({
  page,
  allow,
}, info) => {
  allow(/^(422 PATCH|404 HEAD) \/upload/);
  const model = info.outputPath('ggml-pond.bin');
  writeWhisperModel(model, { language: 2, parts: [0, ' Das', ' Papp', 'boot', ' sinkt', '.', 2] });
  const none = info.outputPath('none.bin');
  writeFileSync(none, 'no model');
  await page.goto('/');
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByRole('radio', { name: /No speech model/ })).toBeChecked();
  await page.getByLabel('Speech model to bring in').setInputFiles(none);
  await expect(page.getByText(/no speech model in the manner of/)).toBeVisible();
  await page.getByRole('button', { name: 'Dismiss' }).click();
  await page.getByLabel('Speech model to bring in').setInputFiles(model);
  const row = page.getByRole('listitem').filter({ hasText: 'ggml-pond.bin' });
  await expect(row.getByRole('radio')).toBeChecked();
  await expect(row.getByText(/An hour of speech takes about/)).toBeVisible();
  await row.getByText('99 languages').click();
  await expect(row.getByText(/Swahili/)).toBeVisible();

  // A film whose words were brought in: what is heard now stands beside them.
  await page.goto(`/projects/${demoProject.id}/moments`);
  await page.getByRole('tab', { name: 'Words' }).click();
  const head = page.locator('aside').getByText(/^race-day\.mp4: /);
  await expect(head).toContainText('brought in');
  const before = await head.innerText();
  await page.getByRole('button', { name: 'Back to what was heard' }).click();
  await page.getByRole('button', { name: 'Transcribe again' }).click();
  await expect(head).toContainText(/in German, transcribed by ggml-pond\.bin/, { timeout: 120_000 });
  const others = page.getByRole('region', { name: 'Other texts' });
  await others
    .getByRole('listitem')
    .filter({ hasText: before.replace(/^race-day\.mp4: /, '').split(';')[0]! })
    .getByRole('button')
    .first()
    .click();
  await expect(head).toHaveText(before);

  await page.goto('/speech-models');
  await page.getByRole('button', { name: 'Remove ggml-pond.bin' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Delete' }).click();
  await expect(row).toHaveCount(0);
  await expect(page.getByRole('radio', { name: /No speech model/ })).toBeChecked();
});
