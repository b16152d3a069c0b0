import { describe, expect, it } from 'vitest';
import { parseSubtitles, spread } from '#core/words';
import { writeVtt } from '#core/formats';
import {
  approximateCanvas,
  captionAt,
  captionDefaults,
  captionFontNames,
  captionFonts,
  captionLines,
  captionLooks,
  captionRules,
  captionsAss,
  clearOfPlayers,
  fastestReading,
  inLook,
  layoutCaption,
  lineText,
  speakerColours,
  twoLanguages,
  wordColour,
  type HeardWord,
} from '.';
import { captionMotion } from './layout';
import { litStretches } from './lines';

/** A text spoken at about 14 letters a second, sentence by sentence with a pause after each. */
function spoken(text: string, lettersPerSecond = 14, pause = 0.6): HeardWord[] {
  let at = 1;
  const words = (text.match(/[^.!?]+[.!?]/g) ?? [text]).flatMap((sentence) => {
    const own = spread(sentence.trim().split(/\s+/), at, at + sentence.trim().length / lettersPerSecond);
    at = own.at(-1)!.end + pause;
    return own;
  });
  return words.map((word, index) => ({ ...word, media: 'm', index }));
}
const rows = ({ words, firstRow }: { words: HeardWord[]; firstRow: number }) =>
  [words.slice(0, firstRow), words.slice(firstRow)].map(lineText).filter(Boolean);

const phone = { width: 720, height: 1280 };

describe('words become captions', () => {
  const text =
    'The rule is simple. If it came in a box, it may go in the water. If it came from a shop, it may not. Three weekends, two rolls of tape, and every box from the bakery.';
  const lines = captionLines(spoken(text));

  it('at most two rows and 36 letters, every word once and in order', () => {
    for (const line of lines) {
      expect(lineText(line.words).length).toBeLessThanOrEqual(36);
      expect(rows(line).length).toBeLessThanOrEqual(2);
    }
    expect(
      lines
        .flatMap((line) => line.words)
        .map((word) => word.text)
        .join(' '),
    ).toBe(text);
  });
  it('part at phrases: at commas, never after an article or a preposition', () => {
    expect(lines.map((line) => lineText(line.words))).toEqual([
      'The rule is simple.',
      'If it came in a box,',
      'it may go in the water.',
      'If it came from a shop, it may not.',
      'Three weekends, two rolls of tape,',
      'and every box from the bakery.',
    ]);
    for (const line of captionLines(
      spoken(
        'We tested it with four bags of flour and the flour came back dry so we baked a loaf of bread with it in the evening.',
      ),
    ))
      expect(lineText(line.words)).not.toMatch(/\b(a|the|of|with|in|and|so)$/);
  });
  it('a second row where one would be too long, parted evenly', () =>
    expect(rows(lines[4]!)).toEqual(['Three weekends,', 'two rolls of tape,']));
  it('never faster than 20 letters a second where pauses leave room (common practice, no source)', () => {
    for (const line of captionLines(spoken(text, 19, 0.7)))
      expect(line.pace).toBeLessThanOrEqual(fastestReading + 1e-6);
    // Nobody can read along with thirty letters a second without a pause: then it is said.
    expect(Math.max(...captionLines(spoken(text, 32, 0.01)).map((line) => line.pace))).toBeGreaterThan(fastestReading);
  });
  it('captions never overlap, cover their words, and keep the order of WebVTT (W3C 2019: start before end, starts in order)', () => {
    for (const speed of [9, 14, 19, 26]) {
      const own = captionLines(spoken(text, speed, 0.35));
      for (const [index, line] of own.entries()) {
        expect(line.end).toBeGreaterThan(line.start);
        if (index) expect(line.start).toBeGreaterThanOrEqual(own[index - 1]!.end - 1e-9);
        expect(line.start).toBeLessThanOrEqual(line.words[0]!.start + 0.351);
        expect(line.end).toBeGreaterThanOrEqual(line.words.at(-1)!.end - 0.501);
      }
      const cues = parseSubtitles(
        writeVtt(own.map((line) => ({ start: line.start, end: line.end, text: lineText(line.words) }))),
      );
      expect(cues.length).toBe(own.length);
    }
  });
  it('breaks set by hand are obeyed', () => {
    const words = spoken('Water looks for the edge so you give it nothing to find.');
    const at = words.findIndex((word) => word.text === 'looks');
    expect(
      captionLines(words.map((word, index) => (index === at ? { ...word, breakAfter: true } : word))).map((line) =>
        lineText(line.words),
      )[0],
    ).toBe('Water looks');
    const short = spoken('Yes, sir.');
    expect(captionLines(short).length).toBe(1);
    const free = captionLines(words);
    const last = free[0]!.words.at(-1)!.index;
    const joined = captionLines(
      words.map((word, index) => (index === last ? { ...word, breakAfter: false } : word)),
      { ...captionRules, letters: 42 },
    );
    expect(joined.some((line) => line.words.at(-1)!.index === last)).toBe(false);
  });
});

describe('the spoken word is lit', () => {
  const words: HeardWord[] = [
    ['two', 1, 1.2],
    ['rolls', 1.25, 1.6],
    ['of', 1.6, 1.7],
    ['tape', 2.15, 2.6],
  ].map(([text, start, end], index) => ({
    text: String(text),
    start: Number(start),
    end: Number(end),
    confidence: 1,
    media: 'm',
    index,
  }));
  const line = captionLines(words)[0]!;
  it('from its beginning to the next one, not over a pause', () => {
    const lit = (seconds: number) => captionAt([line], seconds)?.lit;
    expect([1.1, 1.23, 1.3, 1.65, 2.1, 2.3].map(lit)).toEqual([0, 0, 1, 2, null, 3]);
    expect(captionAt([line], 0.2)).toBeNull();
    expect(captionAt([line], 9)).toBeNull();
  });
  it('its stretches fill the caption without gaps', () => {
    const stretches = litStretches(line);
    expect(stretches[0]!.start).toBe(line.start);
    expect(stretches.at(-1)!.end).toBe(line.end);
    stretches.slice(1).forEach((each, index) => expect(each.start).toBeCloseTo(stretches[index]!.end, 9));
  });
});

describe('where captions stand', () => {
  const line = captionLines(spoken('Three weekends, two rolls of tape.'))[0]!;
  it.each(captionLooks.map((look) => [look.name, look.style] as const))(
    '%s: inside the safe width, clear of what phone players cover',
    (_, style) => {
      const { rows: set, em } = layoutCaption(approximateCanvas(), line, style, phone);
      for (const row of set) {
        expect(row.width).toBeLessThanOrEqual(0.9 * phone.width);
        expect(row.middle.y - em).toBeGreaterThan(clearOfPlayers.top * phone.height);
        expect(row.middle.y + em).toBeLessThan(clearOfPlayers.bottom * phone.height);
      }
    },
  );
  it('a word too long for the width becomes smaller instead of leaving the picture', () => {
    const long = captionLines(spoken('Donaudampfschifffahrtsgesellschaft.'))[0]!;
    const set = layoutCaption(approximateCanvas(), long, { ...captionDefaults, size: 14 }, phone);
    expect(set.rows[0]!.width).toBeLessThanOrEqual(0.9 * phone.width + 1e-6);
  });
  it('comes in as its style says, and is whole after that', () => {
    expect(captionMotion({ ...captionDefaults, motion: 'fade' }, 0)).toEqual({ opacity: 0, scale: 1 });
    expect(captionMotion({ ...captionDefaults, motion: 'pop' }, 0.07).scale).toBeCloseTo(0.91, 2);
    for (const motion of ['none', 'fade', 'pop'] as const)
      expect(captionMotion({ ...captionDefaults, motion }, 1)).toEqual({ opacity: 1, scale: 1 });
  });
  it('ASS: braces and backslashes of the text are no commands, colours are blue-green-red', () => {
    const words = spoken('odd {\\b1} words.');
    const text = captionsAss(
      approximateCanvas(),
      [
        {
          lines: captionLines(words.map((word, index) => ({ ...word, emphasis: index === 2 }))),
          style: { ...captionDefaults, emphasis: '#112233' },
          follows: true,
        },
      ],
      phone,
    );
    expect(text).not.toContain('{\\b1}');
    expect(text).toContain('\\c&H332211&}words.');
    expect(captionFontNames.every((name) => captionFonts[name].ascent > 0.9)).toBe(true);
  });
});

describe('captions out and in again (Advanced SubStation Alpha, v4.00+)', () => {
  it('what was written as ASS with a lit word is read as the same captions', () => {
    const lines = captionLines(
      spoken('Three weekends, two rolls of tape, and every box from the bakery. It floats, mostly.'),
    );
    for (const style of [captionDefaults, { ...captionDefaults, box: '#000000cc' }]) {
      const read = parseSubtitles(captionsAss(approximateCanvas(), [{ lines, style, follows: true }], phone));
      expect(read.map((cue) => cue.text)).toEqual(lines.map((line) => lineText(line.words)));
      read.forEach((cue, index) => {
        expect(Math.abs(cue.start - lines[index]!.start)).toBeLessThan(0.011);
        expect(Math.abs(cue.end - lines[index]!.end)).toBeLessThan(0.011);
      });
    }
  });
  it('foreign files: other places of the columns, commas in the text, overrides, drawings', () => {
    const text =
      '[Script Info]\r\nScriptType: v4.00+\r\n\r\n[Events]\r\nFormat: Start, End, Style, Text\r\nDialogue: 0:00:01.50,0:00:03.00,Default,{\\i1}Well,{\\i0} hello\\Nthere\r\nComment: 0:00:00.00,0:00:01.00,Default,nothing\r\nDialogue: 0:00:04.00,0:00:05.00,Default,{\\p1}m 0 0 l 10 0{\\p0}\r\nDialogue: 0:00:09.00,0:00:05.00,Default,backwards\r\n';
    expect(parseSubtitles(text)).toEqual([{ start: 1.5, end: 3, text: 'Well, hello there' }]);
  });
});

describe('captions by speaker', () => {
  const style = { ...captionDefaults, speakers: ['#aa0000', '#00aa00'] };
  const word = spoken('Ahoy!')[0]!;
  it('the first speaker has the colour of the letters, the others theirs, over and over', () => {
    expect(
      [undefined, 0, 1, 2, 3].map((voice) => wordColour(style, false, voice === undefined ? word : { ...word, voice })),
    ).toEqual([style.colour, style.colour, '#aa0000', '#00aa00', '#aa0000']);
    expect(wordColour(captionDefaults, false, { ...word, voice: 1 })).toBe(captionDefaults.colour);
  });
  it('a lit or important word is lit or important, whoever says it', () => {
    expect(wordColour(style, true, { ...word, voice: 1 })).toBe(style.lit);
    expect(wordColour(style, false, { ...word, voice: 1, emphasis: true })).toBe(style.emphasis);
  });
  it('a caption is of one speaker', () => {
    const words = spoken('Ready when you are captain.').map((each, at) => ({ ...each, voice: at < 2 ? 0 : 1 }));
    expect(captionLines(words).map(({ words: own }) => lineText(own))).toEqual(['Ready when', 'you are captain.']);
  });
  /** Contrast of two colours (WCAG 2.2, 1.4.3); reckoned here anew. */
  const contrast = (a: string, b: string) => {
    const light = (colour: string) =>
      [0.2126, 0.7152, 0.0722].reduce((sum, weight, at) => {
        const share = parseInt(colour.slice(1 + 2 * at, 3 + 2 * at), 16) / 255;
        return sum + weight * (share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4);
      }, 0);
    const [dark, bright] = [light(a), light(b)].sort((x, y) => x - y);
    return (bright! + 0.05) / (dark! + 0.05);
  };
  it.each(captionLooks)('on the look “$name” every speaker can be read: 4.5 to 1 and more', ({ style: look }) => {
    for (const colour of speakerColours(look))
      expect(contrast(colour, look.box ?? look.outline), colour).toBeGreaterThan(4.5);
  });
  it('another look keeps who has a colour, and the second language', () => {
    const signal = captionLooks.find(({ name }) => name === 'Signal')!.style;
    const now = inLook(signal, { ...style, second: 'de' });
    expect(now).toEqual({ ...signal, speakers: speakerColours(signal), second: 'de' });
    expect(inLook(signal, captionDefaults)).toEqual(signal);
    expect(inLook(signal, null)).toEqual(signal);
  });
});

describe('captions in two languages', () => {
  const above = captionLines(spoken('Three weekends, two rolls of tape, and every box from the bakery.'))[0]!;
  const below = captionLines(spoken('Drei Wochenenden, zwei Rollen Klebeband und jeder Karton der Bäckerei.'))[0]!;
  it.each([0.1, 0.5, 0.68, 0.9, 0.95])(
    'at height %s neither touches the other, and both are in the picture',
    (place) => {
      for (const size of [phone, { width: 1920, height: 1080 }]) {
        const styles = twoLanguages({ ...captionDefaults, place }, size);
        const [first, second] = [above, below].map((line, at) =>
          layoutCaption(approximateCanvas(), line, styles[at]!, size),
        );
        const foot = (layout: typeof first) => layout!.rows.at(-1)!.middle.y + layout!.em * 0.58;
        expect(foot(first)).toBeLessThan(second!.rows[0]!.middle.y - second!.em * 0.58);
        expect(foot(second)).toBeLessThanOrEqual(size.height * 0.95 + 1);
        expect(first!.rows[0]!.middle.y - first!.em * 0.58).toBeGreaterThan(0);
      }
    },
  );
  it('written as ASS they are seen together, and only the spoken one is lit', () => {
    const [first, second] = twoLanguages(captionDefaults, phone);
    const text = captionsAss(
      approximateCanvas(),
      [
        { lines: [above], style: first, follows: true },
        { lines: [below], style: second, follows: false },
      ],
      phone,
    );
    const events = text.split('\n').filter((line) => line.startsWith('Dialogue'));
    const german = events.filter((line) => line.includes('Wochenenden'));
    expect(german).toHaveLength(1);
    expect(german[0]).not.toContain('&H5CC9FF&');
    expect(events.filter((line) => line.includes('weekends') && line.includes('&H5CC9FF&')).length).toBeGreaterThan(1);
  });
});
