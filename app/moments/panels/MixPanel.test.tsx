// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { defaultLimits, defaultMix, defaultPieceLength, defaultVariety, type SuggestedLimit } from '#core/moments';
import { showScreen } from '../../testScreen';
import { MixPanel } from './MixPanel';

const settings = { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength, variety: defaultVariety };
const nothing = () => undefined;
const open = (found: SuggestedLimit[] = []) => {
  const onChange = vi.fn();
  showScreen(
    <MixPanel
      settings={settings}
      photoSeconds={4}
      photos={false}
      recipes={[]}
      learned={null}
      tastes={{ tastes: [], others: [], projects: 0, taste: null, problem: null, change: () => Promise.resolve(null) }}
      learning={false}
      forgotten={0}
      onChange={onChange}
      onPhotoSeconds={nothing}
      onSaveRecipe={nothing}
      onRemoveRecipe={nothing}
      onSuggestLimits={() => found}
      onLearning={nothing}
    />,
  );
  return onChange;
};
afterEach(cleanup);

describe('the mix', () => {
  it('a fresh project goes by the mix for whole events', () => {
    open();
    const pressed = screen.getAllByRole('button', { pressed: true }).map((button) => button.textContent);
    expect(pressed).toEqual(['Whole event']);
  });
  it('a ready mix brings its variety along', () => {
    const onChange = open();
    fireEvent.click(screen.getByRole('button', { name: 'People talking' }));
    expect(onChange.mock.calls[0]![0]).toMatchObject({ variety: 30, mix: { talk: 100 } });
    fireEvent.click(screen.getByRole('button', { name: 'Whole event' }));
    expect(onChange.mock.calls[1]![0]).toEqual(settings);
  });
  it('limits that were set say where, and which stay', () => {
    open([
      { limit: 'shake', at: 0.41, bad: 0.062 },
      { limit: 'blur', at: null, bad: 0 },
      { limit: 'dark', at: null, bad: 0 },
      { limit: 'plain', at: 0.045, bad: 0.2 },
    ]);
    fireEvent.click(screen.getByRole('button', { name: 'Set the limits for me' }));
    expect(screen.getByRole('status').textContent).toBe(
      'Shake at 41 (6 % is over it). Structure at 4.5 (20 % is under it). No gap between good and bad in sharpness and light: they stay.',
    );
  });
});
