/** The place for whoever runs an installation: who works, what waits, what failed. */
import { expect, newProject, test } from './test';

test('a worker is shown with what it does; what it began is gone from there when it is done', async ({
  page,
  context,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Work', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Work', exact: true })).toBeVisible();
  const worker = page.getByRole('listitem').filter({ hasText: /process \d+/ });
  await expect(worker).toHaveCount(1);
  await expect(worker).toContainText('reads 1, renders 1, hears 1 and all else');
  const other = await context.newPage();
  await newProject(other, 'Watched at work');
  await other.getByLabel('Files', { exact: true }).setInputFiles('demo/media/walk-to-the-pier.mp4');
  const row = other.getByRole('row', { name: /walk-to-the-pier\.mp4/ });
  await expect(row).not.toContainText(/being read|waits|next in line/, { timeout: 120_000 });
  await expect(worker).toContainText('waits for work', { timeout: 120_000 });
  await expect(page.getByText('Nothing waits.')).toBeVisible();
  await page.getByRole('link', { name: 'All projects' }).click();
  await expect(page.getByRole('link', { name: /Watched at work/ }).first()).toBeVisible();
});
