import { useState } from 'react';
import { CaptionsPanel } from '../shorts/CaptionsPanel';
import { sourceSecond } from '../shorts/sourceSecond';
import { StylePanel } from '../shorts/StylePanel';
import type { ShortSetData } from '#usecases/shorts';
import { TextPanel } from './text/TextPanel';
import type { ReelDesk } from './useReelDesk';

/** What is said in a reel: its text to cut by, its captions, and how these look. */
export function ReelCaptions({
  desk,
  styles,
  projectId,
}: {
  desk: ReelDesk;
  styles: ShortSetData['styles'];
  projectId: string;
}) {
  const [part, setPart] = useState<'text' | 'captions' | 'style'>(desk.document?.captions ? 'captions' : 'text');
  return (
    <div className="flex min-h-full flex-col">
      <div
        className="mb-2.5 flex overflow-hidden self-start rounded-md border border-line"
        role="group"
        aria-label="Words"
      >
        {(
          [
            ['text', 'Text'],
            ['captions', 'Captions'],
            ['style', 'Style'],
          ] as const
        ).map(([key, label]) => (
          <button
            key={key}
            type="button"
            aria-pressed={part === key}
            onClick={() => setPart(key)}
            className={`px-2.5 py-0.5 ${part === key ? 'bg-text font-semibold text-ground' : 'text-muted hover:text-text'}`}
          >
            {label}
          </button>
        ))}
      </div>
      {part === 'text' && <TextPanel desk={desk} />}
      {part === 'captions' && (
        <CaptionsPanel desk={desk} sourceAt={sourceSecond(desk)} onStyle={() => setPart('style')} />
      )}
      {part === 'style' && <StylePanel desk={desk} styles={styles} projectId={projectId} />}
    </div>
  );
}
