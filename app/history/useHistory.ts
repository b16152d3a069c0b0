import { useSyncExternalStore } from 'react';
import { historyOf, type Participant } from './history';

/**
 * The history of a project, for a screen's keys and buttons.
 * @param usual whose steps of earlier visits are taken back when nothing was done on this one
 */
export function useHistory(projectId: string, usual: Participant | null) {
  const history = historyOf(projectId);
  useSyncExternalStore(history.subscribe, history.version, history.version);
  return {
    undo: () => void history.undo(usual),
    redo: () => void history.redo(usual),
    canUndo: history.canUndo(usual),
    canRedo: history.canRedo(usual),
  };
}
