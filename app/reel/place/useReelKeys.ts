import { shownOf } from '../../ui/shownOf';
import { useShortcuts } from '../../ui/useShortcuts';
import { useCopyEvents } from '../useCopyEvents';
import type { ReelPlace } from './useReelPlace';

type Keys = Parameters<typeof useShortcuts>[0];

/** Keys of a reel's place; they go to the reel that has them. */
export function useReelKeys(place: ReelPlace, help: () => void): void {
  // The browser says when something is copied or pasted; its keys are left to it.
  useCopyEvents(place.desk.actions);
  useShortcuts({
    ...playKeys(place),
    ...editKeys(place),
    ...(place.two ? twoReelsKeys(place) : {}),
    undo: place.history.undo,
    redo: place.history.redo,
    fullScreen: () => shownOf(document, '[data-fullscreen]')?.click(),
    help,
  });
}

function playKeys({ desk }: ReelPlace): Keys {
  const { player } = desk;
  return {
    play: () => (player.playing ? player.pause() : player.play()),
    halt: player.pause,
    forward: player.play,
    frameBack: () => player.seek(player.time - desk.step),
    frameOn: () => player.seek(player.time + desk.step),
    secondBack: () => player.seek(player.time - 1),
    secondOn: () => player.seek(player.time + 1),
    toStart: () => player.seek(0),
    toEnd: () => player.seek(desk.total),
    previous: () => desk.pick(desk.index - 1),
    next: () => desk.pick(desk.index + 1),
    markerBefore: () => desk.toMarker(-1),
    markerAfter: () => desk.toMarker(1),
    chooseAll: desk.chooseAll,
  };
}

function editKeys({ desk: { actions }, modes }: ReelPlace): Keys {
  const { inPlace, snapping } = modes;
  return {
    split: () => actions.split(),
    takeOut: () => actions.takeOut(),
    lift: () => actions.lift(),
    trimIn: () => actions.trimIn(inPlace),
    trimOut: () => actions.trimOut(inPlace),
    hold: () => actions.hold(),
    rollBack: () => actions.roll(-1),
    rollOn: () => actions.roll(1),
    slipBack: () => actions.slip(-1),
    slipOn: () => actions.slip(1),
    marker: () => actions.mark(),
    mutePieces: () => actions.mute(),
    inPlace: () => modes.setInPlace(!inPlace),
    snapping: () => modes.setSnapping(!snapping),
  };
}

function twoReelsKeys({ sendOver, desk, which, setFocus }: ReelPlace): Keys {
  return {
    copyOver: () => sendOver?.(false),
    moveOver: () => sendOver?.(true),
    swap: () => {
      desk.player.pause();
      setFocus(which === 'upper' ? 'lower' : 'upper');
    },
  };
}
