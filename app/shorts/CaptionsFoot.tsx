import { Hand } from 'lucide-react';
import { FileLink } from '../history/FileLink';
import { Button } from '../ui/controls';
import { BringText } from './BringText';
import type { Taps } from './useTaps';

interface CaptionsFootProps {
  taps: Taps;
  /** How many captions there are. */
  count: number;
  media: string;
  /** Where the reel lies; null while it is not open. */
  address: string | null;
  onText(): void;
}

/** Tapping the times of captions, bringing a text in, taking them away as a file. */
export function CaptionsFoot({ taps, count, media, address, onText }: CaptionsFootProps) {
  return (
    <div className="sticky -bottom-3 mt-auto flex flex-wrap items-center gap-2 bg-panel pb-3 pt-2">
      {taps.count === null ? (
        <>
          <Button title="Play, and press T where each caption should begin" onClick={taps.start}>
            <Hand size={14} aria-hidden /> Tap the times
          </Button>
          <BringText media={media} onDone={onText} />
          {address && <CaptionFiles address={address} />}
        </>
      ) : (
        <>
          <Button look="lamp" keys="T" onClick={taps.tap}>
            <Hand size={14} aria-hidden /> {taps.count < count ? `Caption ${taps.count + 1} begins` : 'All are tapped'}
          </Button>
          <Button onClick={taps.keep}>Keep these times</Button>
          <Button look="quiet" onClick={taps.leave}>
            Leave them
          </Button>
        </>
      )}
    </div>
  );
}

const CaptionFiles = ({ address }: { address: string }) => (
  <span className="ml-auto text-xs text-muted">
    as{' '}
    {['srt', 'vtt', 'ass'].map((format) => (
      <FileLink
        key={format}
        href={`${address}/export/${format}`}
        className="ml-1.5 uppercase underline hover:text-text"
      >
        {format}
      </FileLink>
    ))}
  </span>
);
