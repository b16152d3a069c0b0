// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import type { Item } from '#usecases/projects';
import { showScreen } from '../testScreen';
import { soundLines, toggledPick } from './soundPicks';
import { SoundTracks } from './SoundTracks';

afterEach(cleanup);

const tracks = [
  { channels: 2, layout: 'stereo', codec: 'aac', sampleRate: 48_000, language: 'eng', title: null },
  { channels: 1, layout: 'mono', codec: 'pcm_s24le', sampleRate: 48_000, language: null, title: 'Clip-on' },
];
const listened = [
  { track: 0, channel: 0, speech: 0.01, clarity: 2, level: -30 },
  { track: 0, channel: 1, speech: 0, clarity: 0, level: -90 },
  { track: 1, channel: 0, speech: 0.64, clarity: 20, level: -24 },
];

describe('lines to choose from', () => {
  it('are tracks and their channels, with what was heard', () => {
    expect(soundLines(tracks, listened).map(({ name, kind, heard }) => [name, kind, heard])).toEqual([
      ['Track 1', 'stereo, aac, eng', 'no speech'],
      ['Left', '', 'no speech'],
      ['Right', '', 'silent'],
      ['Clip-on', 'mono, pcm_s24le', '64 % speech'],
    ]);
  });
  it('a track and its channels exclude one another, other tracks stay', () => {
    const both = toggledPick([{ track: 1, channel: null }], { track: 0, channel: null });
    expect(both).toEqual([
      { track: 0, channel: null },
      { track: 1, channel: null },
    ]);
    const left = toggledPick(both, { track: 0, channel: 0 });
    expect(left).toEqual([
      { track: 0, channel: 0 },
      { track: 1, channel: null },
    ]);
    expect(toggledPick(left, { track: 0, channel: 1 })).toHaveLength(3);
    expect(toggledPick(left, { track: 1, channel: null })).toEqual([{ track: 0, channel: 0 }]);
  });
});

describe('the list', () => {
  const item = { id: 'a', name: 'talk.mov', nextTask: null, state: null } as unknown as Item;
  const probe = { soundTracks: tracks, listened, heard: [{ track: 1, channel: null }] } as unknown as NonNullable<
    Item['probe']
  >;
  const box = (name: RegExp) => screen.getByRole<HTMLInputElement>('checkbox', { name });
  const hear = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Hear/ });
  it('shows what is heard, and offers to hear what was changed', () => {
    showScreen(<SoundTracks item={item} probe={probe} />);
    expect([box(/Track 1/).checked, box(/Clip-on/).checked, hear().disabled]).toEqual([false, true, true]);
    fireEvent.click(box(/Left/));
    expect([box(/Left/).checked, hear().disabled, hear().textContent]).toEqual([true, false, 'Hear these']);
    fireEvent.click(box(/Left/));
    fireEvent.click(box(/Clip-on/));
    expect(hear().textContent).toBe('Hear nothing');
  });
  it('waits while other sound is being read', () => {
    showScreen(<SoundTracks item={{ ...item, nextTask: 't', state: 'running' }} probe={probe} />);
    fireEvent.click(box(/Left/));
    expect(hear().disabled).toBe(true);
    expect(screen.getByRole('status').textContent).toMatch(/is being read; until then all stays/);
  });
});
