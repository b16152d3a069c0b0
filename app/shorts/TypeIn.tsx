import { useState } from 'react';
import { mainTrack } from '#core/reel';
import { framesToSeconds } from '#core/time';
import type { ReelDesk } from '../reel/useReelDesk';
import { Button } from '../ui/controls';

/** Where nothing was recognised: what is said is typed, spread over the short, and then tapped into place. */
export function TypeIn({ desk, onType }: { desk: ReelDesk; onType(text: string, start: number, end: number): void }) {
  const [text, setText] = useState('');
  const { document: reel } = desk;
  const clips = reel ? mainTrack(reel).items.filter((item) => item.kind === 'clip') : [];
  const put = () => {
    const first = clips[0],
      last = clips.at(-1);
    if (!first || !last || !reel) return;
    onType(
      text,
      framesToSeconds(first.sourceIn, reel.rate) + 0.1,
      framesToSeconds(last.sourceIn + last.frames, reel.rate) - 0.1,
    );
  };
  return (
    <div className="space-y-2">
      <p className="text-muted">
        No words are known here. Transcribe the recording or bring in a text under Moments, Words; or type what should
        stand on the picture, and tap its times afterwards.
      </p>
      <textarea
        aria-label="What should stand on the picture"
        rows={4}
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="block w-full rounded-md border border-line bg-ground px-2 py-1"
      />
      <Button disabled={!text.trim()} onClick={put}>
        Put it in
      </Button>
    </div>
  );
}
