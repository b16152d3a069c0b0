import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';

// Subresource Integrity (W3C) is what npm checks a package by.
it('every package is known by its hash, those for other platforms too', () => {
  const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8')) as {
    packages: Record<string, { link?: boolean; integrity?: string }>;
  };
  const named = Object.entries(packages).filter(([path, { link }]) => path && !link);
  expect(named.length).toBeGreaterThan(500);
  expect(
    named.filter(([, { integrity }]) => !/^sha512-[A-Za-z0-9+/]{86}==$/.test(integrity ?? '')).map(([path]) => path),
  ).toEqual([]);
});
