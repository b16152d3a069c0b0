// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
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
    showScreen(<SoundTracks item={item} probe={probe} start={2} />);
    expect([box(/Track 1/).checked, box(/Clip-on/).checked, hear().disabled]).toEqual([false, true, true]);
    fireEvent.click(box(/Left/));
    expect([box(/Left/).checked, hear().disabled, hear().textContent]).toEqual([true, false, 'Hear these']);
    fireEvent.click(box(/Left/));
    fireEvent.click(box(/Clip-on/));
    expect(hear().textContent).toBe('Hear nothing');
  });
  it('waits while other sound is being read', () => {
    showScreen(<SoundTracks item={{ ...item, nextTask: 't', state: 'running' }} probe={probe} start={2} />);
    fireEvent.click(box(/Left/));
    expect(hear().disabled).toBe(true);
    expect(screen.getByRole('status').textContent).toMatch(/is being read; until then all stays/);
  });
  it('plays a line alone, at a place that all lines share', () => {
    const played: string[] = [];
    class FakeAudio {
      onended: (() => void) | null = null;
      constructor(readonly src: string) {
        played.push(src);
      }
      play = () => Promise.resolve();
      pause = () => undefined;
    }
    vi.stubGlobal('Audio', FakeAudio);
    showScreen(<SoundTracks item={item} probe={{ ...probe, durationSeconds: 60 }} start={12.5} />);
    fireEvent.click(screen.getByRole('button', { name: 'Listen to Right of track 1' }));
    expect(screen.getByRole('button', { name: 'Stop Right of track 1' })).toBeTruthy();
    const from = screen.getByLabelText<HTMLInputElement>('Listen from');
    expect(from.value).toBe('0:12.5');
    fireEvent.change(from, { target: { value: '0:40' } });
    fireEvent.keyDown(from, { key: 'Enter' });
    fireEvent.click(screen.getByRole('button', { name: 'Listen to Clip-on' }));
    expect(played).toEqual(['/media/a/excerpt?sound=0.1&from=12.50', '/media/a/excerpt?sound=1&from=40.00']);
    vi.unstubAllGlobals();
  });
});
