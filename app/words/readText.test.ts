import { expect, it } from 'vitest';
import { hasTimes } from '#core/words';
import { readText } from './readText';

const file = (name: string, content: string) => new File([content], name);

it('reads tables: quoted cells, semicolons, times; its new name says what it is', async () => {
  const timed = await readText(file('talk.de.csv', '\uFEFFin;out;text\n0:01;0:02;"Ja; die ""Boote"" sind da."\n'));
  expect(timed.name).toBe('talk.de.srt');
  expect(timed.text).toContain('Ja; die "Boote" sind da.');
  expect(hasTimes(timed.text, timed.name)).toBe(true);
  const plain = await readText(file('lines.tsv', 'who\ttext\nIda\tThe boats, all in.\n'));
  expect(plain).toEqual({ name: 'lines.txt', text: 'Ida: The boats, all in.' });
  expect(hasTimes(plain.text, plain.name)).toBe(false);
  await expect(readText(file('numbers.csv', '1,2\n3,4\n'))).rejects.toThrow(/no words in “numbers.csv”/);
});

it('reads JSON without times as a plain text, and leaves one with times as it is', async () => {
  expect(await readText(file('talk.json', '["the boats are in", "all of them"]'))).toEqual({
    name: 'talk.txt',
    text: 'the boats are in\nall of them',
  });
  const timed = '[{"text":"a","start":1,"end":2}]';
  expect(await readText(file('talk.json', timed))).toEqual({ name: 'talk.json', text: timed });
});

it('refuses what is no text, with a sentence', async () => {
  await expect(readText(file('film.txt', 'a\0b'))).rejects.toThrow(/is no text/);
  await expect(readText(file('broken.docx', 'no zip'))).rejects.toThrow(/could not be read as a document/);
});
