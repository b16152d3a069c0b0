import { describe, expect, it } from 'vitest';
import { guessLanguage } from './language';

describe('the language of a text', () => {
  // Article 1 of the Universal Declaration of Human Rights (UN General Assembly resolution 217 A) in four languages, from memory.
  it.each([
    [
      'All human beings are born free and equal in dignity and rights. They are endowed with reason and conscience.',
      'en',
    ],
    [
      'Alle Menschen sind frei und gleich an Würde und Rechten geboren. Sie sind mit Vernunft und Gewissen begabt.',
      'de',
    ],
    [
      'Tous les êtres humains naissent libres et égaux en dignité et en droits. Ils sont doués de raison et de conscience.',
      'fr',
    ],
    [
      'Todos los seres humanos nacen libres e iguales en dignidad y derechos, dotados como están de razón y conciencia.',
      'es',
    ],
    ['The ducks were here before us. We glued it twice and painted it yellow. Nobody tested it on the water.', 'en'],
  ])('%s', (text, tag) => expect(guessLanguage(text)).toBe(tag));
  it('is what the name of the file says, where it does', () => {
    expect(guessLanguage('All human beings are born free and equal in dignity.', 'talk.de.srt')).toBe('de');
    expect(guessLanguage('All human beings are born free and equal in dignity.', 'race-day.final.srt')).toBe('en');
  });
  it('is not made up', () => {
    expect(guessLanguage('1\n00:00:01,000 --> 00:00:02,000\nOh!')).toBeNull();
    expect(guessLanguage('', 'x.qq.srt')).toBeNull();
  });
});
