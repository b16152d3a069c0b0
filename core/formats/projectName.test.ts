import { expect, it } from 'vitest';
import { kindByName, projectNameOf } from '.';

const noon = (text: string) => Date.parse(`${text}T12:00:00Z`);
const day = noon('2026-06-14');
const now = noon('2026-11-28');
const named = (paths: readonly string[], times: readonly number[] = []) =>
  projectNameOf(
    paths.map((path, index) => ({ path, lastModified: times[index] ?? day })),
    now,
  );

it('a project is named by what is in it and the day it was filmed', () => {
  expect(named(['Regatta/a.mp4', 'Regatta/Card 2/b.mov'])).toBe('Regatta, 14 June 2026');
  expect(named(['interview with the builder.mov'])).toBe('interview with the builder, 14 June 2026');
  // A song beside one film does not name it.
  expect(named(['race.mp4', 'song.mp3'])).toBe('race, 14 June 2026');
  expect(named(['a.mp4', 'b.MOV', 'c.heic', 'd.wav'])).toBe('2 films, 1 photo and 1 recording, 14 June 2026');
  expect(named(['song.flac'])).toBe('song, 14 June 2026');
});
it('of several days, or folders, neither day nor folder is told', () => {
  expect(named(['a.mp4', 'b.mp4'], [day, noon('2026-06-15')])).toBe('2 films, 28 November 2026');
  expect(named(['Day 1/a.mp4', 'Day 2/b.mp4'])).toBe('2 films, 14 June 2026');
});
it('a long name is cut, so that the day is there', () => {
  const name = named([`${'x'.repeat(300)}.mp4`]);
  expect(name).toHaveLength(80 + ', 14 June 2026'.length);
});
it('kinds by endings, whatever their letters', () => {
  expect(['a.MP4', 'b.Heif', 'c.m4a', 'd'].map(kindByName)).toEqual(['video', 'photo', 'sound', 'video']);
});
