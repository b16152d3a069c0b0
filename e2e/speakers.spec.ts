import { demoProject } from '../demo/project';
import { expect, test } from './test';

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
});
