import { useState } from 'react';
import { suggestLimits } from '#core/moments';
import type { Range } from '#core/time';
import { newId } from '../newId';
import { ReelViewer } from '../reel/ReelViewer';
import { FoundPanel } from './panels/FoundPanel';
import { MarkersPanel } from './panels/MarkersPanel';
import type { LearningChange } from './panels/LearningPart';
import { MixPanel } from './panels/MixPanel';
import { SilencePanel } from './panels/SilencePanel';
import { Viewer } from './Viewer';
import { WhyPanel } from './panels/WhyPanel';
import { ReviewPanel } from './panels/ReviewPanel';
import { WordsPanel } from './panels/WordsPanel';
import { actingWords } from './whatActs';
import { Column } from '../ui/Column';
import type { MomentsDesk } from './useMomentsDesk';

interface MomentsColumnProps {
  desk: MomentsDesk;
  safeAreas: boolean;
  onSafeAreas(): void;
}

/** The viewer of page or reel, and below it what is to be known and changed. */
export function MomentsColumn({ desk, safeAreas, onSafeAreas }: MomentsColumnProps) {
  const { state, change, notes } = desk;
  const showsSilence = state.view === 'silence';
  const panel = state.panel === 'silence' && !showsSilence ? 'why' : state.panel;
  const { length: markers } = notes.markers;
  const tabs: [string, string][] = [
    ['why', 'Why'],
    ['mix', 'Mix'],
    ['words', 'Words'],
    ['markers', markers ? `Markers ${markers}` : 'Markers'],
    ['found', 'Found'],
  ];
  if (showsSilence) tabs.unshift(['silence', 'Silence']);
  const Panel = panels[panel];
  return (
    <Column picture={<Viewers desk={desk} safeAreas={safeAreas} onSafeAreas={onSafeAreas} />}>
      <Column.Tabs
        value={panel === 'review' ? 'words' : panel}
        onChange={(next) => change({ panel: next })}
        tabs={tabs}
      >
        {Panel && <Panel desk={desk} />}
      </Column.Tabs>
    </Column>
  );
}

function Viewers({ desk, safeAreas, onSafeAreas }: MomentsColumnProps) {
  const { player, string, acting, itemOf, rateOf, actions, loop, below } = desk;
  const reel = below.desk;
  return (
    <>
      <div hidden={below.hasKeys}>
        <Viewer
          player={player}
          string={string}
          marked={acting}
          safeAreas={safeAreas}
          itemOf={itemOf}
          rateOf={rateOf}
          onPrevious={() => actions.jump(-1)}
          onNext={() => actions.jump(1)}
          onLoop={loop}
          onSafeAreas={onSafeAreas}
        />
      </div>
      <div hidden={!below.hasKeys}>
        <ReelViewer
          player={reel.player}
          rate={reel.rate}
          size={reel.document?.size ?? { width: 16, height: 9 }}
          place={reel.segments.length ? `piece ${reel.index + 1} of ${reel.segments.length}` : 'empty'}
          onPrevious={() => reel.pick(reel.index - 1)}
          onNext={() => reel.pick(reel.index + 1)}
        />
      </div>
    </>
  );
}

const panels: Readonly<Record<string, (props: { desk: MomentsDesk }) => React.ReactNode>> = {
  why: Why,
  mix: Mix,
  words: Words,
  review: Review,
  markers: Markers,
  found: Found,
  silence: Silences,
};

function Why({ desk }: { desk: MomentsDesk }) {
  const { acting, actingAs, choice, settings, water, actions, below, wanted, actingPieces, setWater, notes } = desk;
  const { mix } = notes.pick;
  return (
    <WhyPanel
      why={acting ? choice.why : null}
      what={actingAs && actingWords[actingAs]}
      mix={settings.mix}
      water={water}
      onKeep={() => actions.decideHere('keep')}
      onDrop={() => actions.decideHere('drop')}
      onToReel={() => below.send('append', wanted(actingPieces))}
      onWater={setWater}
      onGoTo={actions.goTo}
      onOtherTake={desk.takeOther}
      onRemedy={({ ingredient, by }) => notes.setPick({ mix: { ...mix, [ingredient]: mix[ingredient] + by }, water })}
    />
  );
}

function Mix({ desk: { notes, settings, footage, choice, tastes } }: { desk: MomentsDesk }) {
  const { pick, decisions } = notes;
  const setLearning = ({ on, forget, taste }: LearningChange) =>
    notes.setPick({
      learning: {
        on: on ?? pick.learning.on,
        forgotten: forget ? decisions.map((decision) => decision.id) : pick.learning.forgotten,
        taste: taste === undefined ? (pick.learning.taste ?? null) : taste,
      },
    });
  return (
    <MixPanel
      settings={settings}
      photoSeconds={pick.photoSeconds}
      photos={footage.some((each) => each.whole)}
      recipes={notes.recipes}
      learned={choice.learned}
      tastes={tastes}
      learning={pick.learning.on}
      forgotten={pick.learning.forgotten.length}
      onChange={(next, join) => notes.setPick(next, join)}
      onPhotoSeconds={(photoSeconds) => notes.setPick({ photoSeconds }, 'photo')}
      onSaveRecipe={(name) => notes.saveRecipe({ id: newId(), name, ...settings })}
      onRemoveRecipe={(recipe) => notes.removeRecipe(recipe.id)}
      onSuggestLimits={() => {
        const { limits, found } = suggestLimits(footage, settings.limits);
        notes.setPick({ limits });
        return found;
      }}
      onLearning={setLearning}
    />
  );
}

function Words({ desk }: { desk: MomentsDesk }) {
  /** The marks that words were drawn over for; others are none of theirs. */
  const [drawn, setDrawn] = useState<Range | null>(null);
  const { projectId, place, nameOf, actions, change, marks, string, below, wanted, actingPieces } = desk;
  if (!place) return null;
  return (
    <WordsPanel
      key={place.id}
      projectId={projectId}
      media={place.id}
      name={nameOf(place.id)}
      seconds={place.seconds}
      onSeek={(seconds) => actions.goTo(place.id, seconds)}
      onMark={(range) => {
        const marked = string.rangesOf(place.id, range)[0] ?? null;
        setDrawn(marked);
        marks.setMarked(marked);
      }}
      onKeep={() => actions.decideHere('keep')}
      onDrop={() => actions.decideHere('drop')}
      onAppend={() => below.send('append', wanted(actingPieces))}
      isMarked={drawn !== null && marks.marked === drawn}
      onReview={() => change({ panel: 'review' })}
    />
  );
}

function Review({ desk: { projectId, place, string, player, actions, change } }: { desk: MomentsDesk }) {
  if (!place) return null;
  return (
    <ReviewPanel
      key={place.id}
      projectId={projectId}
      media={place.id}
      seconds={place.seconds}
      onLoop={({ start, end }) => {
        const [from, to] = [string.timeOf(place.id, start), string.timeOf(place.id, end)];
        if (from === null || to === null) return;
        actions.goTo(place.id, start);
        player.setLoop({ start: from, end: to });
        player.play();
      }}
      onLeave={() => {
        player.setLoop(null);
        player.pause();
        change({ panel: 'words' });
      }}
    />
  );
}

function Markers({ desk: { actions, notes, writing, setWriting, nameOf } }: { desk: MomentsDesk }) {
  const shown = actions.markerTimes.map((each) => each.marker);
  const elsewhere = notes.markers.filter((marker) => !shown.includes(marker));
  return (
    <MarkersPanel
      markers={[...shown, ...elsewhere]}
      writing={writing}
      nameOf={nameOf}
      onGo={(marker) => actions.goTo(marker.media, marker.seconds)}
      onChange={notes.setMarker}
      onRemove={(marker) => notes.removeMarker(marker.id)}
      onDrop={() => actions.dropMarker(true)}
      onWritten={() => setWriting(null)}
    />
  );
}

function Found({ desk: { ask, hitHere, state, change, nameOf, takeHit, below, wanted, hits } }: { desk: MomentsDesk }) {
  return (
    <FoundPanel
      found={ask.last}
      current={hitHere}
      only={state.show === 'found'}
      nameOf={nameOf}
      onGo={takeHit}
      onOnly={() => change({ view: 'page', show: state.show === 'found' ? 'all' : 'found' })}
      onTake={() => below.send('append', wanted(hits.map(({ media, start, end }) => ({ id: media, start, end }))))}
    />
  );
}

function Silences({
  desk: { notes, silences, silenceList, silenceHere, below, actions, makeReel },
}: {
  desk: MomentsDesk;
}) {
  return (
    <SilencePanel
      choice={notes.silence}
      suggestedDb={silences.suggestedDb}
      count={silenceList.length}
      kept={silenceList.filter((silence) => silence.kept).length}
      here={silenceHere ? silenceHere.kept : null}
      loading={silences.loading}
      making={below.making}
      onChange={(next, join) => notes.setSilence(next, `silence ${join}`)}
      onKeepHere={actions.keepSilence}
      onMake={makeReel}
    />
  );
}
