import { framesPerSecond } from '#core/time';
import { findTheme } from '../themes';
import type { Reel, Transition } from '../types';
import { withItems, withValues } from './change';
import { refuse, type Edit, type Outcome, type Sources } from './edit';
import { setTransitions } from './transition';

/** Titles, transitions, look and photo moves together. */
export interface SetTheme {
  type: 'theme';
  theme: string | null;
}
export const theme: Edit<SetTheme> = {
  apply: (reel, command, sources) => setTheme(reel, command.theme, sources),
  says: (command) => (command.theme === null ? 'took the theme away' : `took the theme “${command.theme}”`),
};

function setTheme(reel: Reel, name: string | null, sources: Sources): Outcome {
  const { theme: _, look: __, ...plain } = reel;
  if (name === null) return setTransitions(plain, null, sources);
  const theme = findTheme(name);
  if (!theme) return refuse(`There is no theme “${name}”.`);
  const into: Transition | null = theme.transition && {
    kind: theme.transition.kind,
    frames: Math.max(2, Math.round(theme.transition.seconds * framesPerSecond(reel.rate))),
  };
  const dressed = setTransitions({ ...plain, theme: name, ...(theme.look ? { look: theme.look } : {}) }, into, sources);
  // Photos get the theme's way of moving; those moved by hand keep their own.
  const moved = withItems(dressed.reel, (track) =>
    track.items.map((item, index) =>
      item.kind === 'clip' &&
      sources.get(item.media)?.photo &&
      (!item.move || item.move.from.width === 1 || item.move.to.width === 1)
        ? withValues(item, { move: theme.stillMove(index) ?? undefined })
        : item,
    ),
  );
  return { ...dressed, reel: moved };
}
