import { expect, it } from 'vitest';
import { helpFor } from './helpFor';
import { handbookContents, handbookPage } from './pages.server';

const places = [
  '',
  '/begin',
  '/footage',
  '/footage/people',
  '/footage/x',
  '/moments',
  '/reels',
  '/reels/x',
  '/shorts',
  '/music',
  '/variants',
  '/outputs',
];

it.each(places)('a place has a page that tells of it: %s', (place) => {
  const [name, part] = helpFor(`/projects/x${place}`).replace('/handbook/', '').split('#');
  const page = handbookPage(name);
  expect(page?.html).toMatch(/^<h1/);
  if (part) expect(page!.html).toContain(`id="${part}"`);
});

it('every page that is named is there, and links and pictures of all lead somewhere', () => {
  const contents = handbookContents;
  expect(contents.length).toBeGreaterThan(8);
  for (const name of [undefined, ...contents.map((each) => each.name), 'ask', 'formats', 'glossary']) {
    const page = handbookPage(name);
    expect(page, name).not.toBeNull();
    for (const [, href] of page!.html.matchAll(/(?:href|src)="([^"]+)"/g)) {
      expect(href, `${name}: ${href}`).not.toMatch(/\.md|^\.\.\/screenshots/);
      const other = /^\/handbook\/([\w-]+)/.exec(href!)?.[1];
      if (other) expect(handbookPage(other), `${name}: ${href}`).not.toBeNull();
    }
  }
  expect(handbookPage('README')).toBeNull();
  expect(handbookPage('../../package')).toBeNull();
});
