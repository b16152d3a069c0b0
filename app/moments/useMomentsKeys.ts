import { joinScene, moveScene, partScene, tagScene, type SceneTag } from '#core/moments';
import { framesPerSecond } from '#core/time';
import { nextLineStep } from './model/address';
import { fullScreen } from './Viewer';
import { fastest } from '../player/useFootagePlayer';
import { useShortcuts } from '../ui/useShortcuts';
import type { MomentsDesk } from './useMomentsDesk';

type Keys = Parameters<typeof useShortcuts>[0];

/** Keys of the Moments place: those of page or reel, whichever has them, and those that are always there. */
export function useMomentsKeys(desk: MomentsDesk, toggle: { safeAreas(): void; legend(): void; help(): void }): void {
  useShortcuts({
    ...(desk.below.hasKeys ? reelKeys(desk) : { ...playKeys(desk), ...pageKeys(desk), ...sceneKeys(desk) }),
    ...placeKeys(desk),
    ...toggle,
  });
}

/** While the reel below has the keys. */
function reelKeys({ below: { desk } }: MomentsDesk): Keys {
  const { player, actions } = desk;
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
    trimIn: () => actions.trimIn(),
    trimOut: () => actions.trimOut(),
    split: () => actions.split(),
    lift: () => actions.lift(),
    takeOut: () => actions.takeOut(),
  };
}

function playKeys({ player, string, secondsPerLine, place, rateOf, loop }: MomentsDesk): Keys {
  const frame = 1 / framesPerSecond(rateOf(place?.id ?? ''));
  const shuttle = (direction: 1 | -1) => {
    const now = player.speed.current;
    const faster = player.playing && Math.sign(now) === direction;
    player.play(direction * (faster ? Math.min(fastest, Math.abs(now) * 2) : 1));
  };
  return {
    play: () => (player.playing ? player.pause() : player.play()),
    halt: player.pause,
    forward: () => shuttle(1),
    back: () => shuttle(-1),
    frameBack: () => player.seek(player.time - frame),
    frameOn: () => player.seek(player.time + frame),
    secondBack: () => player.seek(player.time - 1),
    secondOn: () => player.seek(player.time + 1),
    lineUp: () => player.seek(player.time - secondsPerLine),
    lineDown: () => player.seek(player.time + secondsPerLine),
    toStart: () => player.seek(0),
    toEnd: () => player.seek(string.total),
    loop,
  };
}

function pageKeys(desk: MomentsDesk): Keys {
  const { player, marks, place, rateOf, acting, actions, below, wanted, actingPieces, state } = desk;
  const frame = 1 / framesPerSecond(rateOf(place?.id ?? ''));
  return {
    markIn: () => actions.mark('start'),
    markOut: () => actions.mark('end'),
    markShot: actions.markShot,
    clearMarks: () => {
      marks.setMarked(null);
      marks.setSelected(null);
      player.setLoop(null);
    },
    toMarkIn: () => acting && player.seek(acting.start),
    toMarkOut: () => acting && player.seek(Math.max(acting.start, acting.end - frame)),
    defaults: actions.setDefaults,
    previous: () => actions.jump(-1),
    next: () => actions.jump(1),
    keep: () => (state.view === 'silence' ? actions.keepSilence() : actions.decideHere('keep')),
    drop: () => state.view !== 'silence' && actions.decideHere('drop'),
    otherTake: desk.takeOther,
    append: () => below.send('append', wanted(actingPieces)),
    insert: () => below.send('insert', wanted(actingPieces)),
    overwrite: () => below.send('overwrite', wanted(actingPieces)),
    above: () => below.send('above', wanted(actingPieces)),
    replaceMarked: () => below.replaceWith(wanted(actingPieces)),
  };
}

/** In the view of scenes, for the one under the playhead. */
function sceneKeys({ state, cell, cells, notes, place, footage }: MomentsDesk): Keys {
  if (state.view !== 'scenes' || !cell) return {};
  const { scenes, setScenes } = notes;
  const tag = (wanted: SceneTag) => () => setScenes(tagScene(scenes, cell.key, wanted));
  const move = (direction: 1 | -1) => () => {
    const now = cells.indexOf(cell);
    if (now + direction < 0 || now + direction >= cells.length) return;
    const before = cells[direction > 0 ? now + 2 : now - 1];
    setScenes(moveScene(scenes, cells, cell.key, before?.key ?? null));
  };
  const seconds = footage.find((each) => each.id === cell.media)?.durationSeconds ?? 0;
  return {
    joinScene: () => setScenes(joinScene(scenes, cell, seconds)),
    partScene: () => place && setScenes(partScene(scenes, cell, place.seconds)),
    sceneEarlier: move(-1),
    sceneLater: move(1),
    tag1: tag('sun'),
    tag2: tag('leaf'),
    tag3: tag('brick'),
    tag4: tag('wave'),
    tag5: tag('plum'),
  };
}

function placeKeys(desk: MomentsDesk): Keys {
  const { actions, player, below, water, setWater, change, askField, secondsPerLine } = desk;
  return {
    marker: () => actions.dropMarker(false),
    markerNote: () => actions.dropMarker(true),
    markerBefore: () => actions.jumpMarker(-1),
    markerAfter: () => actions.jumpMarker(1),
    swap: () => {
      player.pause();
      below.swap();
    },
    undo: desk.undo,
    redo: desk.redo,
    makeReel: desk.makeReel,
    separate: () => desk.separation.setOpen(true),
    waterUp: () => setWater(Math.floor(water) + 1),
    waterDown: () => setWater(Math.ceil(water) - 1),
    pagePage: () => change({ view: 'page' }),
    pageScenes: () => change({ view: 'scenes' }),
    pageSilence: () => change({ view: 'silence', panel: 'silence' }),
    ask: () => askField.current?.focus(),
    finer: () => change({ secondsPerLine: nextLineStep(secondsPerLine, -1) }),
    coarser: () => change({ secondsPerLine: nextLineStep(secondsPerLine, 1) }),
    panelWhy: () => change({ panel: 'why' }),
    panelMix: () => change({ panel: 'mix' }),
    panelWords: () => change({ panel: 'words' }),
    reviewWords: () => change({ panel: 'review' }),
    panelMarkers: () => change({ panel: 'markers' }),
    panelFound: () => change({ panel: 'found' }),
    fullScreen: () => fullScreen(document.getElementById('viewer')),
  };
}
