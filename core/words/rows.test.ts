import { describe, expect, it } from 'vitest';
import { importWords, parseSubtitles, scriptWords, textOfJson, textOfRows } from '.';

const rows = (text: string) => text.split('\n').map((line) => line.split('|'));

describe('a text in a table', () => {
  it('becomes subtitles where columns say when it is said, whatever their order', () => {
    const found = textOfRows(rows('Speaker|In|Out|Text\nIda|0:01.5|0:03|The boats are in.\nOtto|3,25|1:00:04|Yes.'))!;
    expect(found.hasTimes).toBe(true);
    expect(parseSubtitles(found.text).map(({ start, end, text }) => [start, end, text])).toEqual([
      [1.5, 3, 'The boats are in.'],
      [3.25, 3604, 'Yes.'],
    ]);
    expect(importWords(found.text).map(({ text }) => text)).toEqual(['The', 'boats', 'are', 'in.', 'Yes.']);
  });
  it('lasts until the next row where no end is given', () => {
    const found = textOfRows(rows('time|words\n1|one\n4|two'))!;
    expect(parseSubtitles(found.text).map(({ start, end }) => [start, end])).toEqual([
      [1, 4],
      [4, 9],
    ]);
  });
  it('is a plain text without times: whoever speaks stands before a line', () => {
    const found = textOfRows(rows('speaker|text\nIDA|The boats are in.\nOTTO|Yes.\nIDA|'))!;
    expect(found).toEqual({ text: 'IDA: The boats are in.\nOTTO: Yes.', hasTimes: false });
    expect(
      scriptWords(found.text)
        .map(({ text, speaker }) => [text, speaker])
        .at(-1),
    ).toEqual(['Yes.', 'OTTO']);
    // Without headings it is the column that has the words in it; times that cannot be read are none.
    expect(textOfRows(rows('1|Nobody is wet.\n2|Nobody at all.'))).toEqual({
      text: 'Nobody is wet.\nNobody at all.',
      hasTimes: false,
    });
    expect(textOfRows(rows('start|text\nsoon|Go.'))!.hasTimes).toBe(false);
  });
  it('is none where there are no words', () => {
    for (const table of ['', '1|2\n3|4', 'text\n \n']) expect(textOfRows(rows(table))).toBeNull();
    expect(textOfRows([])).toBeNull();
  });
});

describe('a text in JSON without times', () => {
  it('is read from lists of words, of lines and of objects', () => {
    expect(textOfJson('["the","boats"]')).toBe('the boats');
    expect(textOfJson('{"segments":[{"text":"The boats are in."},{"text":"Yes."}]}')).toBe('The boats are in.\nYes.');
    expect(textOfJson('{"text":"The boats are in."}')).toBe('The boats are in.');
  });
  it('is left to whoever reads times, or says that it cannot be read', () => {
    for (const json of ['[{"text":"a","start":1,"end":2}]', '{"boats":3}', '[]', '[1,2]', 'null', '{'])
      expect(textOfJson(json), json).toBeNull();
  });
});
