import { sceneTags, tagScene, type SceneTag } from '#core/moments';
import { Landscape } from './Landscape';
import { MomentsBar } from './MomentsBar';
import { ScenesBar } from './ScenesBar';
import { SilenceBar } from './SilenceBar';
import type { MomentsDesk } from './useMomentsDesk';

const noLandscape = new Float32Array();

/** The score landscape with its waterline, and what the view comes to. */
export function MomentsFooter({ desk }: { desk: MomentsDesk }) {
  const { whole, chosen, water, moments, wells, place, target, setWater, actions, state } = desk;
  const goTo = (time: number) => {
    const at = whole.locate(time);
    if (at) actions.goTo(at.id, at.seconds);
  };
  const Bar = bars[state.view];
  return (
    <footer
      className="flex min-h-[116px] shrink-0 items-stretch gap-5 border-t border-line px-4 pt-2"
      aria-label="Score and waterline"
    >
      <Landscape
        string={whole}
        landscape={chosen?.landscape ?? noLandscape}
        water={water}
        moments={moments}
        wells={wells}
        here={place ? whole.timeOf(place.id, place.seconds) : null}
        seconds={chosen?.seconds ?? 0}
        targetSeconds={target}
        onWater={setWater}
        onPoint={goTo}
      />
      <Bar desk={desk} />
    </footer>
  );
}

const bars = { page: OfMoments, scenes: OfScenes, silence: OfSilence };

function OfMoments({ desk: { chosen, wells, target, suggested, notes, below, makeReel } }: { desk: MomentsDesk }) {
  return (
    <MomentsBar
      moments={chosen?.moments ?? null}
      seconds={chosen?.seconds ?? 0}
      drops={wells.length}
      targetSeconds={target}
      suggested={suggested}
      saveState={notes.state === 'saved' ? below.desk.live.state : notes.state}
      making={below.making}
      onTarget={(seconds) => notes.setPick({ targetSeconds: seconds, water: null }, 'target')}
      arrangement={notes.pick.arrangement}
      onArrangement={(arrangement) => notes.setPick({ arrangement })}
      onMake={makeReel}
    />
  );
}

function OfScenes({ desk }: { desk: MomentsDesk }) {
  const { cells, shownCells, tagFilter, setTagFilter, cell, notes, below, makeReel } = desk;
  const tagged = Object.fromEntries(
    sceneTags.map((tag) => [tag, cells.filter((each) => each.tag === tag).length]),
  ) as Record<SceneTag, number>;
  return (
    <ScenesBar
      cells={shownCells}
      tagged={tagged}
      tag={tagFilter}
      current={cell}
      saveState={notes.state}
      making={below.making}
      onFilter={setTagFilter}
      onTag={(tag) => cell && notes.setScenes(tagScene(notes.scenes, cell.key, tag))}
      onMake={makeReel}
    />
  );
}

function OfSilence({ desk: { silenceList, whole, notes, below, makeReel } }: { desk: MomentsDesk }) {
  const gone = silenceList.filter((silence) => !silence.kept);
  return (
    <SilenceBar
      count={silenceList.length}
      seconds={gone.reduce((sum, silence) => sum + silence.end - silence.start, 0)}
      total={whole.total}
      kept={silenceList.length - gone.length}
      saveState={notes.state}
      making={below.making}
      onMake={makeReel}
    />
  );
}
