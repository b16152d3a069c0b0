import type { MenuEntry } from '../ui/ContextMenu';
import type { MomentsDesk } from './useMomentsDesk';

/**
 * What can be done on the page. A press beside the marks goes there first; one in them means what is marked.
 * @param time in the string's time; null for where the playhead is
 */
export function momentsMenu({ marks, actions, below }: MomentsDesk, time: number | null): readonly MenuEntry[] {
  const { marked } = marks;
  const isMarked = marked !== null && time !== null && time >= marked.start && time <= marked.end;
  below.setFocus('page');
  if (time !== null && !isMarked) actions.point(time);
  return [
    { command: 'keep' },
    { command: 'drop' },
    { command: 'otherTake' },
    'line',
    { command: 'append' },
    { command: 'insert' },
    { command: 'overwrite' },
    { command: 'above' },
    { command: 'replaceMarked' },
    'line',
    { command: 'markIn' },
    { command: 'markOut' },
    { command: 'markShot' },
    { command: 'loop' },
    { command: 'clearMarks' },
    { command: 'defaults' },
    'line',
    { command: 'marker' },
    { command: 'markerNote' },
  ];
}

/** What can be done with a scene. */
export const sceneMenu: readonly MenuEntry[] = [
  { command: 'tag1' },
  { command: 'tag2' },
  { command: 'tag3' },
  { command: 'tag4' },
  { command: 'tag5' },
  'line',
  { command: 'joinScene' },
  { command: 'partScene' },
  { command: 'sceneEarlier' },
  { command: 'sceneLater' },
  'line',
  { command: 'keep' },
  { command: 'drop' },
  { command: 'append' },
];
