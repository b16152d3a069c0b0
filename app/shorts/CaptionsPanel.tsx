import { counted } from '#core/sentences';
import { useEffect, useRef, useState } from 'react';
import { lineText, type CaptionLine, type HeardWord } from '#core/captions';
import { mainTrack } from '#core/reel';
import { framesToSeconds, secondsToFrames } from '#core/time';
import { isDoubtful } from '#core/words';
import type { ReelDesk } from '../reel/useReelDesk';
import { Button } from '../ui/controls';
import { BringText } from './BringText';
import { CaptionRow, isTooFast, WordTools } from './CaptionRow';
import { CaptionsFoot } from './CaptionsFoot';
import { millisecond } from './millisecond';
import { TypeIn } from './TypeIn';
import { useTaps } from './useTaps';

interface CaptionsPanelProps {
  desk: ReelDesk;
  /** Second of the source that is shown at a second of the reel. */
  sourceAt(seconds: number): number;
  onStyle(): void;
}

/** What is said, caption by caption: words are corrected, marked and parted in place; times are dragged or tapped. */
export function CaptionsPanel({ desk, sourceAt, onStyle }: CaptionsPanelProps) {
  const { captions, player, spoken, document: reel } = desk;
  const media = reel ? (mainTrack(reel).items.find((item) => item.kind === 'clip')?.media ?? null) : null;
  const address = desk.reel ? `/projects/${desk.reel.projectId}/reels/${desk.reel.id}` : null;
  const [word, setWord] = useState<Pick<HeardWord, 'media' | 'index'> | null>(null);
  const [editing, setEditing] = useState<number | null>(null);
  const hear = useHearing(player);
  const taps = useTaps(desk, sourceAt);
  const current = useRef<HTMLLIElement>(null);
  const here = captions.findLastIndex((line) => line.start <= player.time + 0.02);
  useEffect(
    () => void (player.playing && current.current?.scrollIntoView({ block: 'nearest' })),
    [here, player.playing],
  );
  const chosen =
    captions.flatMap((line) => line.words).find((each) => each.index === word?.index && each.media === word.media) ??
    null;
  /** The first frame on which a time has come, as captions count it: the nearest. */
  const show = (seconds: number) =>
    reel && player.seek(framesToSeconds(secondsToFrames(seconds, reel.rate), reel.rate) + 1e-3);
  if (!reel || !media) return null;
  if (!reel.captions)
    return (
      <div className="space-y-3">
        <p className="text-muted">There are no captions yet.</p>
        <Button onClick={onStyle}>Give it captions</Button>
      </div>
    );
  const known = spoken.words.get(word?.media ?? media);
  if (!known) return <p className="text-muted">Looking for words…</p>;
  const correct = (line: CaptionLine, text: string) => {
    setEditing(null);
    const [first, last] = [line.words[0]!, line.words.at(-1)!];
    if (text !== lineText(line.words))
      spoken.edit(first.media, { type: 'correct', from: first.index, to: last.index + 1, text });
  };
  const reload = () => void spoken.reload(media);
  return (
    <div className="flex min-h-full flex-col">
      {spoken.problem && (
        <p role="alert" className="mb-2 flex rounded-md bg-raised px-3 py-2 text-shake">
          {spoken.problem}
          <button type="button" className="ml-auto text-muted" onClick={spoken.forget}>
            ×
          </button>
        </p>
      )}
      {captions.length === 0 ? (
        <TypeIn
          desk={desk}
          onType={(text, start, end) =>
            spoken.edit(media, { type: 'type', text, start: millisecond(start), end: millisecond(end) })
          }
        />
      ) : (
        <p className="mb-2 text-xs text-muted">{summaryOf(captions)}</p>
      )}
      <ol className="space-y-1">
        {captions.map((line, index) => (
          <CaptionRow
            key={`${line.words[0]!.media} ${line.words[0]!.index}-${line.words.length}`}
            line={line}
            index={index}
            isHere={index === here}
            at={index === here ? current : undefined}
            style={reel.captions!}
            now={player.time}
            chosen={chosen}
            isEdited={editing === index}
            onEdit={(on) => setEditing(on ? index : null)}
            onCorrect={(text) => correct(line, text)}
            onShow={show}
            onChoose={setWord}
          >
            {chosen && line.words.includes(chosen) && (
              <WordTools
                line={line}
                word={chosen}
                words={known.words}
                time={sourceAt(player.time)}
                edit={spoken.edit}
                onHear={() => hear(line)}
              />
            )}
          </CaptionRow>
        ))}
      </ol>
      {captions.length > 0 ? (
        <CaptionsFoot taps={taps} count={captions.length} media={media} address={address} onText={reload} />
      ) : (
        <div className="mt-2">
          <BringText media={media} onDone={reload} />
        </div>
      )}
    </div>
  );
}

/** How many there are, and what of them wants to be looked at. */
function summaryOf(captions: readonly CaptionLine[]): string {
  const fast = captions.filter(isTooFast).length;
  const doubtful = captions.flatMap((line) => line.words).filter(isDoubtful).length;
  const parts = [
    `${counted(captions.length, 'caption')}`,
    ...(doubtful ? [`${doubtful} doubtful ${doubtful === 1 ? 'word' : 'words'}, dotted`] : []),
    ...(fast ? [`${fast} faster than can be read`] : []),
  ];
  return `${parts.join(', ')}. Double-click to correct.`;
}

/** Plays one caption and stops behind it. */
function useHearing(player: ReelDesk['player']): (line: CaptionLine) => void {
  const stopAt = useRef<ReturnType<typeof setTimeout> | null>(null);
  const forget = () => {
    if (stopAt.current) clearTimeout(stopAt.current);
  };
  useEffect(() => forget, []);
  return (line) => {
    const [first, last] = [line.words[0]!, line.words.at(-1)!];
    forget();
    player.seek(Math.max(0, first.start - 0.1));
    player.play();
    stopAt.current = setTimeout(() => player.pause(), (last.end - first.start + 0.3) * 1000);
  };
}
