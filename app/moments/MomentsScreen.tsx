import { counted } from '#core/sentences';
import { useState } from 'react';
import { moveScene, type Footage } from '#core/moments';
import { formatClock } from '#core/time';
import type { MomentsData } from '#usecases/moments';
import { keySets } from '../keys';
import { Legend } from '../page/Legend';
import { Page } from '../page/Page';
import { PageHead } from './PageHead';
import { ScenesView } from './ScenesView';
import { ReelDock } from '../reel/ReelDock';
import { KeySheet } from '../ui/KeySheet';
import { MomentsColumn } from './MomentsColumn';
import { momentsMenu } from './momentsMenu';
import { MomentsFooter } from './MomentsFooter';
import { useMomentsDesk, type MomentsDesk } from './useMomentsDesk';
import { useMomentsKeys } from './useMomentsKeys';

interface MomentsScreenProps {
  projectId: string;
  footage: Footage[];
  data: MomentsData;
}

/** Seconds that a line may have, however far one pinches. */
const lineBounds = { least: 10, most: 600 };

/** Where an editor spends the day: all footage like a page, by the light of what is good, and the reel it goes to. */
export function MomentsScreen({ projectId, footage: readings, data }: MomentsScreenProps) {
  const desk = useMomentsDesk(projectId, readings, data);
  const [legend, setLegend] = useState(false);
  const [help, setHelp] = useState(false);
  const [safeAreas, setSafeAreas] = useState(false);
  useMomentsKeys(desk, {
    safeAreas: () => setSafeAreas((now) => !now),
    legend: () => setLegend((now) => !now),
    help: () => setHelp(true),
  });
  const { below } = desk;
  return (
    <>
      <div className="flex min-h-0 flex-1">
        <main
          className="flex min-w-0 flex-1 flex-col"
          onPointerDownCapture={(event) => {
            if (!(event.target as HTMLElement).closest('[data-focused]')) below.setFocus('page');
          }}
        >
          <div
            className={`flex min-h-0 flex-1 flex-col border-l-2 ${below.desk.reel && !below.hasKeys ? 'border-l-lampline' : 'border-l-transparent'}`}
            data-testid="page-pane"
          >
            <Head desk={desk} legend={legend} onLegend={() => setLegend(!legend)} onHelp={() => setHelp(true)} />
            {legend && <Legend />}
            <View desk={desk} />
          </div>
          <ReelDock
            desk={below.desk}
            projectId={projectId}
            reels={data.reels}
            focused={below.hasKeys}
            onFocus={() => below.setFocus('reel')}
            onOpen={below.open}
          />
        </main>
        <MomentsColumn desk={desk} safeAreas={safeAreas} onSafeAreas={() => setSafeAreas(!safeAreas)} />
      </div>
      <MomentsFooter desk={desk} />
      <KeySheet
        open={help}
        onOpenChange={setHelp}
        sets={[
          ['On the page', keySets.page],
          ['In the scenes', keySets.scenes],
          ['When keys go to the reel', keySets.reel],
        ]}
      />
    </>
  );
}

interface HeadProps {
  desk: MomentsDesk;
  legend: boolean;
  onLegend(): void;
  onHelp(): void;
}

function Head({ desk, legend, onLegend, onHelp }: HeadProps) {
  const { state, change, secondsPerLine, data, ask, askField, below, filter, footage, string, whole, hits } = desk;
  const files = `${counted(footage.length, 'file')}`;
  const extent =
    filter === 'all'
      ? `${files}, ${formatClock(string.total)}`
      : `${formatClock(string.total)} of ${formatClock(whole.total)}`;
  return (
    <PageHead
      state={state}
      secondsPerLine={secondsPerLine}
      bins={data.bins}
      people={ask.people}
      found={ask.last}
      field={askField}
      legend={legend}
      reelOpen={below.desk.reel !== null}
      focused={!below.hasKeys}
      extent={extent}
      onState={(next) => change({ ...next, ...(next.view === 'silence' ? { panel: 'silence' } : {}) })}
      onAskGo={() => hits[0] && desk.takeHit(hits[0])}
      onLegend={onLegend}
      onHelp={onHelp}
      separation={desk.separation}
    />
  );
}

/** Scenes as cells, or the footage as a page. */
function View({ desk }: { desk: MomentsDesk }) {
  const { state, change, shownCells, cells, cell, itemOf, actions, notes, string, files, secondsPerLine } = desk;
  const { player, marks, edges, below } = desk;
  if (state.view === 'scenes')
    return (
      <ScenesView
        cells={shownCells}
        currentKey={cell?.key ?? null}
        itemOf={itemOf}
        onPick={(picked) => actions.goTo(picked.media, picked.start)}
        onMove={(key, before) => notes.setScenes(moveScene(notes.scenes, cells, key, before))}
      />
    );
  if (string.total === 0) return <Nothing filter={state.show} onAll={() => change({ show: 'all' })} />;
  const pinch = (factor: number) => {
    const wanted = Math.max(lineBounds.least, Math.min(lineBounds.most, secondsPerLine * factor));
    change({ secondsPerLine: Math.round(wanted) });
  };
  return (
    <Page
      string={string}
      files={files}
      secondsPerLine={secondsPerLine}
      playhead={player.time}
      marked={marks.marked}
      selected={desk.actingAs === 'chosen' ? desk.acting : null}
      edges={edges}
      onPinch={pinch}
      onHover={(time) => !player.playing && player.peek(time)}
      onPoint={actions.point}
      onMark={(range) => {
        below.setFocus('page');
        marks.setMarked(range);
      }}
      onTrim={actions.trim}
      menuAt={(time) => momentsMenu(desk, time)}
    />
  );
}

function Nothing({ filter, onAll }: { filter: string; onAll(): void }) {
  return (
    <div className="flex flex-1 flex-col items-center justify-center gap-2 text-muted">
      <p>{filter === 'all' ? 'There is no video or photo in this bin.' : 'Nothing fits what the page is to show.'}</p>
      {filter !== 'all' && (
        <button type="button" className="text-lampline underline" onClick={onAll}>
          Show everything
        </button>
      )}
    </div>
  );
}
