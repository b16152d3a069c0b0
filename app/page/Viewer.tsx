import { Pause, Play, Repeat, SkipBack, SkipForward } from 'lucide-react';
import { formatClock, formatTimecode, secondsToFrames, type Range, type Rate, type StringOut } from '#core/time';
import type { useFootagePlayer } from '../player/useFootagePlayer';
import { IconButton } from '../ui/controls';

interface ViewerProps {
  player: ReturnType<typeof useFootagePlayer>;
  string: StringOut;
  marked: Range | null;
  nameOf(id: string): string;
  rateOf(id: string): Rate;
  onPrevious(): void;
  onNext(): void;
}

/** The picture at the playhead, with the timecode of the source. */
export function Viewer({ player, string, marked, nameOf, rateOf, onPrevious, onNext }: ViewerProps) {
  const place = string.locate(player.time);
  const rate = place && rateOf(place.id);
  const timecode = rate ? formatTimecode(secondsToFrames(place.seconds, rate), rate) : '';
  return (
    <div className="shrink-0 border-b border-line">
      <div className="relative aspect-video bg-black">
        <video ref={player.video} className="h-full w-full" playsInline preload="auto" aria-label="Viewer" />
        <span className="tabular absolute bottom-2 left-2.5 rounded bg-black/70 px-1.5 py-0.5 text-[13px]" data-testid="timecode">{timecode}</span>
        <span className="absolute bottom-2 right-2.5 max-w-[220px] truncate rounded bg-black/70 px-1.5 py-0.5 text-xs text-muted">{place && nameOf(place.id)}</span>
      </div>
      <div className="flex h-9 items-center gap-1 px-2.5">
        <IconButton label="Moment before" keys="[" onClick={onPrevious}><SkipBack size={15} /></IconButton>
        <IconButton label={player.playing ? 'Pause' : 'Play'} keys="Space" onClick={() => (player.playing ? player.pause() : player.play())}>{player.playing ? <Pause size={16} /> : <Play size={16} />}</IconButton>
        <IconButton label="Moment after" keys="]" onClick={onNext}><SkipForward size={15} /></IconButton>
        <IconButton label="Loop the marked range" aria-pressed={Boolean(player.loop)} className={player.loop ? 'text-lamp' : ''} disabled={!marked && !player.loop} onClick={() => player.setLoop(player.loop ? null : marked)}><Repeat size={15} /></IconButton>
        {marked && (
          <span className="tabular ml-auto text-muted">{formatClock(marked.start, true)} – {formatClock(marked.end, true)} <span className="ml-1 text-text">{(marked.end - marked.start).toFixed(1)} s</span></span>
        )}
      </div>
    </div>
  );
}
