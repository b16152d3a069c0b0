import type { MenuEntry } from '../ui/ContextMenu';
import { clipboardMenu } from './useCopyEvents';
import type { ReelDesk } from './useReelDesk';

/** What can be done with the chosen pieces of a reel, at its playhead. */
export function reelMenu({ actions }: ReelDesk): readonly MenuEntry[] {
  const clipboard = clipboardMenu(actions);
  return [
    { command: 'split' },
    { command: 'trimIn' },
    { command: 'trimOut' },
    { command: 'hold' },
    'line',
    { command: 'takeOut', label: 'Ripple delete' },
    { command: 'lift' },
    { command: 'mutePieces' },
    'line',
    ...(clipboard
      ? ([
          { command: 'copyPieces', act: clipboard.copy },
          { command: 'pastePieces', act: clipboard.paste },
        ] as const)
      : []),
    { command: 'copyOver' },
    { command: 'moveOver' },
    { command: 'chooseAll' },
    'line',
    { command: 'marker' },
  ];
}
