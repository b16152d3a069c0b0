import { FramePanel } from '../../shorts/FramePanel';
import { Column, type Below } from '../../ui/Column';
import { CutFrames } from '../CutFrames';
import { LookPanel } from '../LookPanel';
import { PiecePanel } from '../PiecePanel';
import { ReelCaptions } from '../ReelCaptions';
import { ReelViewer } from '../ReelViewer';
import { SoundPanel } from '../SoundPanel';
import { TitlesPanel } from '../TitlesPanel';
import { VersionsPanel } from '../VersionsPanel';
import { ViewingPanel } from '../ViewingPanel';
import type { ReelPlace, Which } from './useReelPlace';

const tabs: [string, string][] = [
  ['piece', 'Piece'],
  ['frame', 'Frame'],
  ['look', 'Look'],
  ['titles', 'Titles'],
  ['words', 'Words'],
  ['sound', 'Sound'],
  ['versions', 'Versions'],
  ['viewing', 'Viewing'],
];

/** The viewer of the reel that has the keys, and below it what can be changed about it. */
export function ReelColumn({ place, below }: { place: ReelPlace; below: Below | null }) {
  return (
    <Column
      below={below}
      picture={
        <>
          <View place={place} which="lower" below={below} />
          <View place={place} which="upper" below={null} />
        </>
      }
    >
      <Column.Tabs value={place.tab} onChange={place.setTab} tabs={tabs}>
        <Panel place={place} />
      </Column.Tabs>
    </Column>
  );
}

/** Both are there all the time, so that neither loses its picture. */
function View({ place, which, below }: { place: ReelPlace; which: Which; below: Below | null }) {
  const desk = place[which];
  const hasKeys = place.which === which;
  return (
    <div hidden={!hasKeys} className={below ? 'h-full' : ''}>
      <ReelViewer
        player={desk.player}
        rate={which === 'lower' ? place.reel.document.rate : desk.rate}
        size={desk.document?.size ?? { width: 16, height: 9 }}
        testId={hasKeys ? 'reel-viewer' : 'other-viewer'}
        width={below?.width}
        instead={place.moving && hasKeys ? <CutFrames desk={desk} moving={place.moving} /> : undefined}
        place={desk.segments.length ? `piece ${desk.index + 1} of ${desk.segments.length}` : 'empty'}
        onPrevious={() => desk.pick(desk.index - 1)}
        onNext={() => desk.pick(desk.index + 1)}
      />
    </div>
  );
}

function Panel({ place }: { place: ReelPlace }) {
  const { projectId, desk, data, framing, items, sendOver, upper } = place;
  switch (place.tab) {
    case 'sound':
      return <SoundPanel key={desk.reel?.id ?? ''} desk={desk} items={items} />;
    case 'look':
      return <LookPanel desk={desk} projectId={projectId} projectName={place.projectName} tables={data.tables} />;
    case 'frame':
      return (
        <FramePanel
          desk={desk}
          framing={desk.clip?.framing ?? null}
          busy={framing.busy}
          problem={framing.problem}
          onFrame={(wanted, all) => void framing.frame(wanted, all)}
        />
      );
    case 'words':
      return <ReelCaptions desk={desk} styles={data.styles} projectId={projectId} />;
    case 'titles':
      return <TitlesPanel desk={desk} chosen={place.title} onChoose={place.chooseTitle} />;
    case 'versions':
      return (
        <VersionsPanel
          desk={place.lower}
          versions={data.versions}
          steps={place.steps}
          differences={place.differences}
        />
      );
    case 'viewing':
      return (
        <ViewingPanel
          desk={place.lower}
          viewing={place.viewing}
          chosen={place.comment}
          onChoose={place.chooseComment}
        />
      );
    default: {
      const send = upper.reel?.readOnly ? null : sendOver;
      return (
        <PiecePanel
          desk={desk}
          inPlace={place.modes.inPlace}
          onCopy={send ? () => send(false) : undefined}
          onMove={send ? () => send(true) : undefined}
        />
      );
    }
  }
}
